import type { Db } from '../db/open.ts';

/** What somebody said of late work. Instants on the workspace clock. */
export interface PromiseRecord {
  id: number;
  taskId: number;
  personId: number;
  round: number;
  /** The due date that it was said of. */
  due: string | null;
  madeAt: number;
  /** By when it will be done; null where it was only acknowledged. */
  promised: string | null;
  /** Until when nobody asks again. */
  untilAt: number;
  state: 'open' | 'over' | 'kept' | 'broken';
}

/** Acknowledgements of tasks, with the dates that were promised. */
export class PromiseStore {
  readonly #of;

  constructor(db: Db) {
    this.#of = db.prepare<[number], PromiseRecord>(
      `SELECT id, task_id AS taskId, person_id AS personId, round, due, made_at AS madeAt, promised, until_at AS untilAt, state
       FROM promise WHERE task_id = ? ORDER BY id`
    );
  }

  /** Those of a task, the oldest first. */
  of(taskId: number): PromiseRecord[] {
    return this.#of.all(taskId);
  }

  /** The one that has not ended; null without one. */
  openOf(taskId: number): PromiseRecord | null {
    return this.of(taskId).find(({ state }) => state === 'open') ?? null;
  }
}
