import Papa from 'papaparse';
import { CodedError, errorSentence } from '../../core/errors.ts';
import { ROLES } from '../../core/access/deeds.ts';
import { canonicalZoneName } from '../../core/time/zone-names.ts';
import { read } from '../input/fields.ts';
import { personSchema, type PersonInput } from './schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Person } from '../store/people.ts';
import type { Stores } from '../store/all.ts';
import type { AccountGuard } from '../account/account-guard.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { MOST_ABOVE, type PeopleService } from './people.ts';
import { withoutFormulaGuard } from '../in-out/read/formula-guard.ts';

/** Of a cell that is no name but a book so much is shown. */
const LONGEST_SHOWN = 200;

/** Columns of the sheet, in the order in which they are written. */
const COLUMNS = [
  'name',
  'email',
  'phone',
  'zone',
  'calendar',
  'manager',
  'role',
  'groups',
  'active'
] as const;
type Column = (typeof COLUMNS)[number];
const MOST_ROWS = 5_000;

/** One row of a sheet, read: what it would do, or why it does nothing. */
export interface SheetRow {
  line: number;
  name: string;
  /** What it would do, in words; null when there is a problem. */
  act: string | null;
  problem: string | null;
}

interface ReadRow extends SheetRow {
  person: Person | null;
  input: PersonInput | null;
  managerName: string;
  active: boolean;
}

/** What whoever brings a sheet may do. */
interface SheetRights {
  /** Roles, and switching people off and on. */
  mayGiveAccess: boolean;
  /** The address of a person. */
  mayTouch: (personId: number) => boolean;
}

/** People as a CSV sheet (RFC 4180), out and in. A row is known by its address, else by its name. */
export class PeopleSheet {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #people: PeopleService;
  readonly #guard: AccountGuard;

  constructor(stores: Stores, committer: Committer, people: PeopleService, guard: AccountGuard) {
    this.#stores = stores;
    this.#committer = committer;
    this.#people = people;
    this.#guard = guard;
  }

  /** Everybody who is not erased. Cells that a spreadsheet would run are written defused. */
  write(): string {
    const people = this.#stores.people.all().filter(({ erased }) => !erased);
    const names = new Map(people.map(({ id, name }) => [id, name]));
    const calendars = new Map(this.#stores.calendars.all().map(({ id, name }) => [id, name]));
    const rows = people.map((person): Record<Column, string> => ({
      name: person.name,
      email: person.email ?? '',
      phone: person.phone ?? '',
      zone: person.zone,
      calendar: calendars.get(person.calendarId) ?? '',
      manager: person.managerId === null ? '' : (names.get(person.managerId) ?? ''),
      role: person.role,
      groups: person.groups.join('; '),
      active: person.active ? 'yes' : 'no'
    }));
    return `${Papa.unparse(rows, { columns: [...COLUMNS], escapeFormulae: /^[=+\-@\t\r]/ })}\r\n`;
  }

  /**
   * What a sheet would do, row by row.
   * @param actor who brings it
   * @param mayGiveAccess whether roles may change and people be switched off and on
   * @throws CodedError `people-columns`, `import-empty`, `import-header-only` or `import-too-many-rows`
   */
  look(actor: Actor, text: string, mayGiveAccess: boolean): SheetRow[] {
    return this.#read(actor, text, mayGiveAccess).map(({ line, name: whole, act, problem }) => ({
      line,
      name: whole.slice(0, LONGEST_SHOWN),
      act,
      problem
    }));
  }

  /** Does it: rows with a problem are left out. @throws CodedError as above, or `people-nothing` */
  confirm(
    actor: Actor,
    text: string,
    mayGiveAccess: boolean
  ): Committed<{ added: number; changed: number; left: number }> {
    const rows = this.#read(actor, text, mayGiveAccess);
    if (rows.every(({ problem }) => problem !== null)) throw new CodedError('people-nothing');
    return this.#committer.commit(actor, 'People imported', (writer) => this.#write(writer, rows));
  }

  #write(writer: ChangeWriter, rows: readonly ReadRow[]): { added: number; changed: number; left: number } {
    const counts = { added: 0, changed: 0, left: 0 };
    const ids = new Map<string, number>(this.#stores.people.all().map(({ id, name }) => [fold(name), id]));
    const written: [id: number, row: ReadRow][] = [];
    for (const row of rows) {
      if (!row.input) {
        counts.left++;
        continue;
      }
      const without = { ...row.input, managerId: row.person?.managerId ?? null };
      let id = row.person?.id;
      if (id === undefined) id = this.#people.insert(writer, without);
      else this.#people.update(writer, id, without);
      counts[row.person ? 'changed' : 'added']++;
      writer.update('person', id, { active: row.active ? 1 : 0 });
      ids.set(fold(row.name), id);
      written.push([id, row]);
    }
    // A manager may stand below those they look after.
    for (const [id, { managerName }] of written) {
      const managerId = managerName === '' ? null : (ids.get(fold(managerName)) ?? null);
      writer.update('person', id, { manager_id: managerId });
    }
    return counts;
  }

  #read(actor: Actor, text: string, mayGiveAccess: boolean): ReadRow[] {
    const parsed = Papa.parse<Record<string, string>>(text.replace(/^\ufeff/, ''), {
      header: true,
      skipEmptyLines: 'greedy',
      transformHeader: (heading) => heading.trim().toLowerCase()
    });
    const columns = parsed.meta.fields ?? [];
    if (!columns.includes('name'))
      throw new CodedError('people-columns', { columns: columns.join(', ').slice(0, 200) });
    if (parsed.data.length === 0) throw new CodedError('import-header-only');
    if (parsed.data.length > MOST_ROWS) throw new CodedError('import-too-many-rows', { most: MOST_ROWS });
    const mayTouch = (personId: number) => this.#guard.mayTouch(actor.personId, personId);
    const reader = new RowReader(this.#stores, columns, parsed.data, { mayGiveAccess, mayTouch });
    return parsed.data.map((cells, i) => reader.read(cells, i + 2));
  }
}

/** Reads rows against the people and calendars there are, and against each other. */
class RowReader {
  readonly #people: Person[];
  readonly #byEmail: Map<string, Person>;
  readonly #byName: Map<string, Person>;
  readonly #calendars: Map<string, number>;
  readonly #columns: readonly string[];
  readonly #manager: Map<string, string>;
  readonly #seen = new Map<string, number>();
  readonly #seenPeople = new Map<number, number>();
  readonly #administrators: number;
  readonly #seenEmails = new Map<string, number>();
  readonly #rights: SheetRights;

  constructor(
    stores: Stores,
    columns: readonly string[],
    rows: readonly Record<string, string>[],
    rights: SheetRights
  ) {
    this.#rights = rights;
    this.#people = stores.people.all().filter(({ erased }) => !erased);
    this.#byEmail = new Map(
      this.#people.flatMap((person) => (person.email ? [[fold(person.email), person]] : []))
    );
    this.#byName = new Map(this.#people.map((person) => [fold(person.name), person]));
    this.#calendars = new Map(stores.calendars.all().map(({ id, name }) => [fold(name), id]));
    this.#columns = columns;
    this.#administrators = this.#people.filter(
      ({ role, active }) => role === 'administrator' && active
    ).length;
    // Who is whose manager once the sheet is in, by name: circles are found in this.
    const names = new Map(this.#people.map(({ id, name }) => [id, name]));
    this.#manager = new Map(
      this.#people.map(({ name, managerId }) => [
        fold(name),
        fold(managerId === null ? '' : (names.get(managerId) ?? ''))
      ])
    );
    if (columns.includes('manager'))
      for (const row of rows) this.#manager.set(fold(said(row.name)), fold(said(row.manager)));
  }

  read(cells: Record<string, string>, line: number): ReadRow {
    const cell = (column: Column) => said(cells[column]);
    const name = cell('name');
    const base = { line, name, managerName: cell('manager'), person: null, input: null, active: true };
    const problem = (text: string): ReadRow => ({ ...base, act: null, problem: text });
    const email = cell('email');
    const person =
      (email ? this.#byEmail.get(fold(email)) : undefined) ?? this.#byName.get(fold(name)) ?? null;
    const twice = this.#seen.get(fold(name)) ?? (person ? this.#seenPeople.get(person.id) : undefined);
    this.#seen.set(fold(name), line);
    if (twice !== undefined) return problem(`Same person as in line ${twice}.`);
    if (person) this.#seenPeople.set(person.id, line);
    const same = email ? this.#seenEmails.get(fold(email)) : undefined;
    if (same !== undefined) return problem(`Same address as in line ${same}.`);
    if (email) this.#seenEmails.set(fold(email), line);
    try {
      const given = this.#given(cells, person, cell);
      const input = read(personSchema, given);
      if (!input.ok) return problem(Object.values(input.errors)[0]!);
      const fault = this.#fault(name, cell('manager'));
      if (fault) return problem(fault);
      const active = this.#active(cell('active'), person);
      const access = input.value.role !== (person?.role ?? 'owner') || active !== (person?.active ?? true);
      if (access && !this.#rights.mayGiveAccess)
        return problem('Only an administrator can change roles or deactivate people.');
      if (person && input.value.email !== person.email && !this.#rights.mayTouch(person.id))
        return problem(errorSentence('account-guarded', { name: person.name }));
      if (
        person?.role === 'administrator' &&
        (input.value.role !== 'administrator' || !active) &&
        this.#administrators < 2
      )
        return problem('This is the last administrator.');
      return {
        ...base,
        person,
        input: input.value,
        active,
        act: person ? 'is changed' : 'is added',
        problem: null
      };
    } catch (error) {
      if (error instanceof CodedError) return problem(error.message);
      throw error;
    }
  }

  /** A column that the sheet lacks leaves what is there. */
  #given(
    cells: Record<string, string>,
    person: Person | null,
    cell: (column: Column) => string
  ): Record<string, unknown> {
    const has = (column: Column) => this.#columns.includes(column);
    const calendarName = cell('calendar');
    const calendarId =
      has('calendar') && calendarName !== '' ? this.#calendars.get(fold(calendarName)) : undefined;
    if (calendarName !== '' && calendarId === undefined)
      throw new CodedError('bad-field', { detail: `There is no calendar “${calendarName}”` });
    const zone = cell('zone');
    if (zone !== '') canonicalZoneName(zone);
    const role = cell('role').toLowerCase();
    if (role !== '' && !(ROLES as readonly string[]).includes(role))
      throw new CodedError('bad-field', {
        detail: `There is no role “${role}”; there are ${ROLES.join(', ')}`
      });
    return {
      name: cell('name'),
      email: has('email') ? cell('email') : (person?.email ?? ''),
      phone: has('phone') ? cell('phone') : (person?.phone ?? ''),
      zone: zone || person?.zone,
      calendarId: calendarId ?? person?.calendarId ?? [...this.#calendars.values()][0],
      managerId: null,
      role: role || (person?.role ?? 'owner'),
      groups: has('groups')
        ? cell('groups')
            .split(/[;,]/)
            .map((one) => one.trim())
            .filter(Boolean)
        : (person?.groups ?? [])
    };
  }

  #fault(name: string, manager: string): string | null {
    if (manager === '') return null;
    if (!this.#manager.has(fold(manager))) return `No person is named “${manager}”.`;
    const first = fold(name);
    const above = new Set<string>();
    for (let next = fold(manager); next !== ''; next = this.#manager.get(next) ?? '') {
      if (next === first)
        return above.size === 0 ? 'A person cannot be their own manager.' : 'The managers form a circle.';
      if (above.has(next)) return null;
      above.add(next);
      if (above.size > MOST_ABOVE) return errorSentence('person-too-many-above', { most: MOST_ABOVE });
    }
    return null;
  }

  #active(text: string, person: Person | null): boolean {
    if (text === '') return person?.active ?? true;
    return !/^(no|n|false|0)$/i.test(text);
  }
}

function fold(text: string): string {
  return text.trim().toLowerCase();
}

/** What a cell says, without what is around it. */
function said(cell: string | undefined): string {
  return withoutFormulaGuard((cell ?? '').trim());
}
