import type { Db } from '../db/open.ts';

/** Somebody looked at a Desk in the place of its person. */
export interface DeskReading {
  readerId: number;
  /** Workspace clock. */
  at: number;
}

/** Who looks at their Desk and when, and who looks at it in their place. */
export class DeskLookStore {
  readonly #look;
  readonly #last;
  readonly #lastOfAll;
  readonly #read;
  readonly #lastReading;
  readonly #hasRead;

  constructor(db: Db) {
    this.#look = db.prepare<[number, number]>(
      'INSERT INTO desk_look (person_id, at) VALUES (?, ?) ON CONFLICT DO UPDATE SET at = max(at, excluded.at)'
    );
    this.#last = db.prepare<[number], { at: number }>('SELECT at FROM desk_look WHERE person_id = ?');
    this.#lastOfAll = db.prepare<[], { personId: number; at: number }>(
      'SELECT person_id AS personId, at FROM desk_look'
    );
    this.#read = db.prepare<[number, number, number]>(
      'INSERT INTO desk_reading (person_id, reader_id, at) VALUES (?, ?, ?)'
    );
    this.#hasRead = db.prepare<[number, number, number], { id: number }>(
      'SELECT id FROM desk_reading WHERE person_id = ? AND reader_id = ? AND at >= ? LIMIT 1'
    );
    this.#lastReading = db.prepare<[number, number], DeskReading>(
      'SELECT reader_id AS readerId, at FROM desk_reading WHERE person_id = ? AND at >= ? ORDER BY at DESC, id DESC LIMIT 1'
    );
  }

  /** Somebody looks at their own. @param at workspace clock */
  look(personId: number, at: number): void {
    this.#look.run(personId, at);
  }

  /** When they last looked; null before the first time. */
  lastOf(personId: number): number | null {
    return this.#last.get(personId)?.at ?? null;
  }

  /** By person, when each looked last; who has never looked is not in it. */
  lastOfAll(): Map<number, number> {
    return new Map(this.#lastOfAll.all().map(({ personId, at }) => [personId, at]));
  }

  read(personId: number, readerId: number, at: number): void {
    this.#read.run(personId, readerId, at);
  }

  /** Whether somebody has read it in their place from an instant on. */
  hasRead(personId: number, readerId: number, from: number): boolean {
    return this.#hasRead.get(personId, readerId, from) !== undefined;
  }

  /** The last time that anybody read it in their place, from an instant on. */
  lastReading(personId: number, from: number): DeskReading | null {
    return this.#lastReading.get(personId, from) ?? null;
  }
}
