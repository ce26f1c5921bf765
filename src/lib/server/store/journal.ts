import type { Db } from '../db/open.ts';

/** The append-only record. */
export class JournalStore {
  readonly #add;

  constructor(db: Db) {
    this.#add = db.prepare<[number, number, string, number | null, string]>(
      'INSERT INTO journal (at, machine_at, kind, change_id, data) VALUES (?, ?, ?, ?, ?)'
    );
  }

  /** @param at workspace clock; @param machineAt machine clock */
  add(
    at: number,
    machineAt: number,
    kind: string,
    data: Record<string, unknown>,
    changeId: number | null = null
  ): void {
    this.#add.run(at, machineAt, kind, changeId, JSON.stringify(data));
  }
}
