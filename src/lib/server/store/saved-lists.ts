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
  /** It is counted on the Bell tower of whoever has it. */
  counted: boolean;
}

type Row = Omit<SavedList, 'shared' | 'counted'> & { shared: number; counted: number };

function toList({ shared, counted, ...row }: Row): SavedList {
  return { ...row, shared: shared === 1, counted: counted === 1 };
}

export class SavedListStore {
  readonly #of;
  readonly #byId;
  readonly #all;

  constructor(db: Db) {
    const columns = 'SELECT id, person_id AS personId, name, query, shared, counted FROM saved_list';
    this.#of = db.prepare<[number], Row>(
      `${columns} WHERE person_id = ? OR shared = 1 ORDER BY lower(name), id`
    );
    this.#all = db.prepare<[], Row>(`${columns} ORDER BY id`);
    this.#byId = db.prepare<[number], Row>(`${columns} WHERE id = ?`);
  }

  /** Everybody's. */
  all(): SavedList[] {
    return this.#all.all().map(toList);
  }

  /** Those of a person, and those that everybody has. */
  of(personId: number): SavedList[] {
    return this.#of.all(personId).map(toList);
  }

  byId(id: number): SavedList | null {
    const row = this.#byId.get(id);
    return row ? toList(row) : null;
  }
}
