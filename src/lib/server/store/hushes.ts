import type { Hush } from '../../core/forecast/facts/facts.ts';
import type { Db } from '../db/open.ts';

export interface HushRecord extends Hush {
  hushId: number;
  byId: number | null;
  note: string;
}

/** What is quiet, and who wants no reminder of a task. */
export class HushStore {
  readonly #all;
  readonly #since;
  readonly #byId;
  readonly #silence;

  constructor(db: Db) {
    const select = `SELECT id AS hushId, subject_kind AS "of", subject_id AS id, from_at AS "from", until_at AS until,
      by_id AS byId, note FROM hush`;
    this.#all = db.prepare<[], HushRecord>(`${select} ORDER BY until_at, id`);
    this.#since = db.prepare<[number], HushRecord>(`${select} WHERE until_at > ? ORDER BY until_at, id`);
    this.#byId = db.prepare<[number], HushRecord>(`${select} WHERE id = ?`);
    this.#silence = db.prepare<[number, number], { id: number; from: number }>(
      'SELECT id, from_at AS "from" FROM no_reminder WHERE task_id = ? AND person_id = ? AND until_at IS NULL'
    );
  }

  all(): HushRecord[] {
    return this.#all.all();
  }

  /** Those that end after an instant. */
  endingAfter(at: number): HushRecord[] {
    return this.#since.all(at);
  }

  byId(id: number): HushRecord | null {
    return this.#byId.get(id) ?? null;
  }

  /** Since when somebody wants no reminder of a task; null when they want them. */
  silence(taskId: number, personId: number): { id: number; from: number } | null {
    return this.#silence.get(taskId, personId) ?? null;
  }
}
