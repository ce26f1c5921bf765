import type { Db } from '../db/open.ts';

/** A way of looking at the list that somebody keeps. */
export interface SavedList {
  id: number;
  personId: number;
  name: string;
  /** The parameters of the list's address. */
  query: string;
  /** Everybody has it. */
  shared: boolean;
}

export class SavedListStore {
  readonly #of;
  readonly #byId;
  readonly #all;

  constructor(db: Db) {
    const columns = 'SELECT id, person_id AS personId, name, query, shared FROM saved_list';
    this.#of = db.prepare<[number], Omit<SavedList, 'shared'> & { shared: number }>(
      `${columns} WHERE person_id = ? OR shared = 1 ORDER BY lower(name), id`
    );
    this.#all = db.prepare<[], Omit<SavedList, 'shared'> & { shared: number }>(`${columns} ORDER BY id`);
    this.#byId = db.prepare<[number], Omit<SavedList, 'shared'> & { shared: number }>(
      `${columns} WHERE id = ?`
    );
  }

  /** Everybody's. */
  all(): SavedList[] {
    return this.#all.all().map((row) => ({ ...row, shared: row.shared === 1 }));
  }

  /** Those of a person, and those that everybody has. */
  of(personId: number): SavedList[] {
    return this.#of.all(personId).map((row) => ({ ...row, shared: row.shared === 1 }));
  }

  byId(id: number): SavedList | null {
    const row = this.#byId.get(id);
    return row ? { ...row, shared: row.shared === 1 } : null;
  }
}
