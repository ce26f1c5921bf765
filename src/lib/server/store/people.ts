import type { Db } from '../db/open.ts';

export type Role = 'owner' | 'manager' | 'coordinator';

export interface Person {
  id: number;
  name: string;
  email: string | null;
  zone: string;
  calendarId: number;
  managerId: number | null;
  role: Role;
  active: boolean;
}

interface PersonRow {
  id: number;
  name: string;
  email: string | null;
  zone: string;
  calendar_id: number;
  manager_id: number | null;
  role: Role;
  active: number;
}

export class PeopleStore {
  readonly #all;
  readonly #byId;
  readonly #byEmail;

  constructor(db: Db) {
    this.#all = db.prepare<[], PersonRow>('SELECT * FROM person ORDER BY name, id');
    this.#byId = db.prepare<[number], PersonRow>('SELECT * FROM person WHERE id = ?');
    this.#byEmail = db.prepare<[string], PersonRow>(
      'SELECT * FROM person WHERE lower(trim(email)) = lower(trim(?)) AND email IS NOT NULL'
    );
  }

  all(): Person[] {
    return this.#all.all().map(toPerson);
  }

  byId(id: number): Person | null {
    const row = this.#byId.get(id);
    return row ? toPerson(row) : null;
  }

  /** Addresses are compared trimmed and in lower case. */
  byEmail(email: string): Person | null {
    const row = this.#byEmail.get(email);
    return row ? toPerson(row) : null;
  }
}

function toPerson(row: PersonRow): Person {
  return {
    id: row.id,
    name: row.name,
    email: row.email,
    zone: row.zone,
    calendarId: row.calendar_id,
    managerId: row.manager_id,
    role: row.role,
    active: row.active === 1
  };
}
