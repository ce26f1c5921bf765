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
  /** `asked`: it waits for a yes from above, and stops nothing before. */
  state: 'asked' | 'refused' | 'open' | 'over' | 'kept' | 'broken';
  answeredBy: number | null;
  answeredAt: number | null;
}

/** Acknowledgements of tasks, with the dates that were promised. */
export class PromiseStore {
  readonly #of;
  readonly #byId;
  readonly #asked;
  readonly #openBy;

  constructor(db: Db) {
    const select = `SELECT id, task_id AS taskId, person_id AS personId, round, due, made_at AS madeAt, promised, until_at AS untilAt,
      state, answered_by AS answeredBy, answered_at AS answeredAt FROM promise`;
    this.#of = db.prepare<[number], PromiseRecord>(`${select} WHERE task_id = ? ORDER BY id`);
    this.#byId = db.prepare<[number], PromiseRecord>(`${select} WHERE id = ?`);
    this.#asked = db.prepare<[], PromiseRecord>(`${select} WHERE state = 'asked' ORDER BY id`);
    this.#openBy = db.prepare<[number, number], PromiseRecord>(
      `${select} WHERE person_id = ? AND state = 'open' AND promised IS NOT NULL AND until_at <= ? ORDER BY until_at, id`
    );
  }

  /** Those of a task, the oldest first. */
  of(taskId: number): PromiseRecord[] {
    return this.#of.all(taskId);
  }

  byId(id: number): PromiseRecord | null {
    return this.#byId.get(id) ?? null;
  }

  /** Those that wait for a yes, the oldest first. */
  asked(): PromiseRecord[] {
    return this.#asked.all();
  }

  /** Dates that somebody has promised and that end by an instant, the first of them first. */
  openBy(personId: number, until: number): PromiseRecord[] {
    return this.#openBy.all(personId, until);
  }

  /** The one that holds and has not ended; null without one. */
  openOf(taskId: number): PromiseRecord | null {
    return this.of(taskId).find(({ state }) => state === 'open') ?? null;
  }

  /** The one that comes to its end next, whether it holds or waits for a yes; null without one. */
  endingOf(taskId: number): PromiseRecord | null {
    const ending = this.of(taskId).filter(({ state }) => state === 'open' || state === 'asked');
    return ending.sort((a, b) => a.untilAt - b.untilAt)[0] ?? null;
  }
}
