import type { Db } from '../db/open.ts';

/** What a task does by itself: come back by the calendar, leave the bin for good, come to the end of what was promised, be parked no more. */
export interface Chore {
  taskId: number;
  kind: 'renew' | 'purge' | 'promise' | 'review';
  /** Workspace clock. */
  at: number;
}

export class ChoreStore {
  readonly #next;
  readonly #due;
  readonly #set;
  readonly #clear;

  constructor(db: Db) {
    this.#next = db.prepare<[], { at: number | null }>('SELECT min(at) AS at FROM chore');
    this.#due = db.prepare<[number, number], Chore>(
      'SELECT task_id AS taskId, kind, at FROM chore WHERE at <= ? ORDER BY at, task_id, kind LIMIT ?'
    );
    this.#set = db.prepare<[Chore]>(
      `INSERT INTO chore (task_id, kind, at) VALUES (@taskId, @kind, @at)
       ON CONFLICT (task_id, kind) DO UPDATE SET at = excluded.at`
    );
    this.#clear = db.prepare<[number]>('DELETE FROM chore WHERE task_id = ?');
  }

  nextAt(): number | null {
    return this.#next.get()!.at;
  }

  /** Those at or before an instant, the earliest first. */
  due(at: number, limit: number): Chore[] {
    return this.#due.all(at, limit);
  }

  set(chore: Chore): void {
    this.#set.run(chore);
  }

  clear(taskId: number): void {
    this.#clear.run(taskId);
  }
}
