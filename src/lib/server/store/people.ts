import type { ChannelChoice } from '../../core/channel/ways.ts';
import type { Role } from '../../core/access/deeds.ts';
import type { Db } from '../db/open.ts';

export interface Person {
  id: number;
  name: string;
  email: string | null;
  phone: string | null;
  /** The name under which the chat knows them. */
  chat: string | null;
  /** By which channels they want to hear of what. */
  channels: ChannelChoice;
  /** The zone before the first move. */
  zone: string;
  /** Later zones, ascending. */
  moves: { from: string; zone: string }[];
  calendarId: number;
  managerId: number | null;
  role: Role;
  active: boolean;
  erased: boolean;
  /** Intervals as written, `22:00-07:00`. */
  quiet: string[];
  /** Most messages a day; null without a limit. */
  dailyCap: number | null;
  /** `HH:MM`: when the digest of what is due, and of what is overdue, leaves; null without one. */
  digestDue: string | null;
  digestOverdue: string | null;
  groups: string[];
}

/** Leave as written, on the person's wall. */
export interface LeaveRecord {
  id: number;
  personId: number;
  from: string;
  until: string;
  standInId: number | null;
  note: string;
}

interface PersonRow {
  id: number;
  name: string;
  email: string | null;
  phone: string | null;
  chat: string | null;
  channels: string;
  zone: string;
  calendar_id: number;
  manager_id: number | null;
  role: Role;
  active: number;
  erased: number;
  quiet: string;
  daily_cap: number | null;
  digest_due: string | null;
  digest_overdue: string | null;
  moves: string;
  groups: string;
}

const SELECT = `SELECT p.*,
  (SELECT json_group_array(json_object('from', m.from_date, 'zone', m.zone) ORDER BY m.from_date)
   FROM person_zone m WHERE m.person_id = p.id) AS moves,
  (SELECT json_group_array(g.name ORDER BY lower(g.name)) FROM group_member gm JOIN team_group g ON g.id = gm.group_id
   WHERE gm.person_id = p.id) AS groups FROM person p`;
const LEAVE = `SELECT id, person_id AS personId, from_at AS "from", until_at AS until, stand_in_id AS standInId, note FROM leave`;

/** People, their moves, leave and groups. */
export class PeopleStore {
  readonly #all;
  readonly #byId;
  readonly #byEmail;
  readonly #moves;
  readonly #leave;
  readonly #leaveOf;
  readonly #leaveById;
  readonly #groups;
  readonly #members;
  readonly #inGroups;
  readonly #administrators;

  constructor(db: Db) {
    this.#all = db.prepare<[], PersonRow>(`${SELECT} ORDER BY p.name, p.id`);
    this.#byId = db.prepare<[number], PersonRow>(`${SELECT} WHERE p.id = ?`);
    this.#byEmail = db.prepare<[string], PersonRow>(
      `${SELECT} WHERE lower(trim(p.email)) = lower(trim(?)) AND p.email IS NOT NULL`
    );
    this.#moves = db.prepare<[number], { id: number; from: string }>(
      'SELECT id, from_date AS "from" FROM person_zone WHERE person_id = ?'
    );
    this.#leave = db.prepare<[], LeaveRecord>(`${LEAVE} ORDER BY person_id, from_at, id`);
    this.#leaveOf = db.prepare<[number], LeaveRecord>(`${LEAVE} WHERE person_id = ? ORDER BY from_at, id`);
    this.#leaveById = db.prepare<[number], LeaveRecord>(`${LEAVE} WHERE id = ?`);
    this.#groups = db.prepare<[], { id: number; name: string; members: number }>(
      `SELECT g.id, g.name, count(gm.id) AS members FROM team_group g LEFT JOIN group_member gm ON gm.group_id = g.id
       GROUP BY g.id ORDER BY lower(g.name), g.id`
    );
    this.#members = db.prepare<[number], { id: number; groupId: number }>(
      'SELECT id, group_id AS groupId FROM group_member WHERE person_id = ?'
    );
    this.#inGroups = db.prepare<[], { groupId: number; personId: number }>(
      'SELECT group_id AS groupId, person_id AS personId FROM group_member ORDER BY group_id, id'
    );
    this.#administrators = db.prepare<[number], { count: number }>(
      `SELECT count(*) AS count FROM person WHERE role = 'administrator' AND active = 1 AND id <> ?`
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

  /** The rows of a person's moves. */
  movesOf(personId: number): { id: number; from: string }[] {
    return this.#moves.all(personId);
  }

  /** All leave, by person and beginning. */
  leave(): LeaveRecord[] {
    return this.#leave.all();
  }

  leaveOf(personId: number): LeaveRecord[] {
    return this.#leaveOf.all(personId);
  }

  leaveById(id: number): LeaveRecord | null {
    return this.#leaveById.get(id) ?? null;
  }

  groups(): { id: number; name: string; members: number }[] {
    return this.#groups.all();
  }

  /** Who is in which group. */
  membersOfGroups(): { groupId: number; personId: number }[] {
    return this.#inGroups.all();
  }

  /** The rows by which a person belongs to groups. */
  memberships(personId: number): { id: number; groupId: number }[] {
    return this.#members.all(personId);
  }

  /** Active administrators besides one person. */
  otherAdministrators(personId: number): number {
    return this.#administrators.get(personId)!.count;
  }
}

function toPerson(row: PersonRow): Person {
  return {
    id: row.id,
    name: row.name,
    email: row.email,
    phone: row.phone,
    chat: row.chat,
    channels: JSON.parse(row.channels) as ChannelChoice,
    zone: row.zone,
    moves: JSON.parse(row.moves) as Person['moves'],
    calendarId: row.calendar_id,
    managerId: row.manager_id,
    role: row.role,
    active: row.active === 1,
    erased: row.erased === 1,
    quiet: JSON.parse(row.quiet) as string[],
    dailyCap: row.daily_cap,
    digestDue: row.digest_due,
    digestOverdue: row.digest_overdue,
    groups: JSON.parse(row.groups) as string[]
  };
}
