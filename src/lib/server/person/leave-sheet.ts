import { CodedError } from '../../core/errors.ts';
import { zoneOfPerson } from '../../core/forecast/facts/compile-facts.ts';
import { longDate } from '../../core/time/format.ts';
import { Names, fold } from '../in-out/read/names.ts';
import { onWall, type FileRow } from '../in-out/read/leave-file.ts';
import { read } from '../input/fields.ts';
import { leaveSchema, type LeaveInput } from './schema.ts';
import type { Stores } from '../store/all.ts';
import type { Person } from '../store/people.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { PeopleService } from './people.ts';

/** One stretch of leave of a file: what it would do, or why it does nothing. */
export interface LeaveSheetRow {
  line: number;
  name: string;
  when: string;
  /** What it would do, in words; null when there is a problem. */
  act: string | null;
  problem: string | null;
}

interface ReadRow extends LeaveSheetRow {
  personId: number | null;
  /** Null where it already entered, or has a problem. */
  input: LeaveInput | null;
}

/** Leave of many people from a CSV sheet or a calendar. What already entered is not entered again. */
export class LeaveSheet {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #people: PeopleService;

  constructor(stores: Stores, committer: Committer, people: PeopleService) {
    this.#stores = stores;
    this.#committer = committer;
    this.#people = people;
  }

  /**
   * What the rows of a file would do, one by one.
   * @param otherwise whose leave it is where an event names nobody; null: nobody's
   */
  look(file: readonly FileRow[], otherwise: number | null): LeaveSheetRow[] {
    return this.#read(file, otherwise).map(({ line, name, when, act, problem }) => ({
      ...{ line, name, when, act, problem }
    }));
  }

  /** Does it: rows with a problem are left out. @throws CodedError `leave-nothing` */
  confirm(
    actor: Actor,
    file: readonly FileRow[],
    otherwise: number | null
  ): Committed<{ added: number; left: number }> {
    const rows = this.#read(file, otherwise);
    const good = rows.filter(({ input }) => input !== null);
    if (good.length === 0) throw new CodedError('leave-nothing');
    return this.#committer.commit(actor, 'Leave imported from a file', (writer) => {
      for (const { personId, input } of good) this.#people.insertLeave(writer, personId!, input!);
      return { added: good.length, left: rows.length - good.length };
    });
  }

  #read(file: readonly FileRow[], otherwise: number | null): ReadRow[] {
    const people = this.#stores.people.all().filter(({ active }) => active);
    const names = new Names({ people, projects: [], statuses: [] }, {});
    const byId = new Map(people.map((person) => [person.id, person]));
    const before: ReadRow[] = [];
    for (const row of file) {
      const person = personOf(row, names, byId) ?? byId.get(otherwise ?? 0) ?? null;
      before.push(this.#readRow(row, person, names, before));
    }
    return before;
  }

  #readRow(row: FileRow, person: Person | null, names: Names, before: readonly ReadRow[]): ReadRow {
    const said = { line: row.line, personId: person?.id ?? null, input: null, act: null };
    const [called = ''] = row.people;
    if (!person) {
      const near = names.near('owner', called).map(({ label }) => label);
      const hint = near.length > 0 ? ` Did you mean ${near.join(' or ')}?` : '';
      return { ...said, name: called, when: '', problem: `No person is named “${called}”.${hint}` };
    }
    const named = { ...said, name: person.name };
    if (row.problem) return { ...named, when: '', problem: row.problem };
    const dates = row.timed ? onWall(row.timed, zoneOfPerson(person)) : row;
    const { fromDate, fromTime, untilDate, untilTime } = dates;
    const when = [spanWords(fromDate, fromTime), spanWords(untilDate, untilTime)].join(' to ');
    const standIn = row.standIn === '' ? null : names.meaning('owner', row.standIn);
    if (standIn === undefined)
      return { ...named, when, problem: `No person is named “${row.standIn}”, who would stand in.` };
    const given = read(leaveSchema, {
      ...{ fromDate, fromTime, untilDate, untilTime, note: row.note.slice(0, 200) },
      standInId: standIn === null ? null : Number(standIn)
    });
    if (!given.ok) return { ...named, when, problem: Object.values(given.errors)[0]! };
    return { ...named, when, ...this.#fate(person, given.value, before) };
  }

  #fate(
    { id }: Person,
    input: LeaveInput,
    before: readonly ReadRow[]
  ): Pick<ReadRow, 'act' | 'problem' | 'input'> {
    const at = (date: string, time: string | null) => (time === null ? date : `${date}T${time}`);
    const isSame = this.#stores.people
      .leaveOf(id)
      .some(
        ({ from, until }) =>
          from === at(input.fromDate, input.fromTime) && until === at(input.untilDate, input.untilTime)
      );
    if (isSame) return { act: 'already entered', problem: null, input: null };
    const other = before.find(
      (one) =>
        one.personId === id &&
        one.input !== null &&
        one.input.fromDate <= input.untilDate &&
        input.fromDate <= one.input.untilDate
    );
    if (other) return { act: null, problem: `It overlaps line ${other.line}.`, input: null };
    try {
      this.#people.checkLeave(id, input);
      return { act: 'is entered', problem: null, input };
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      return { act: null, problem: error.message, input: null };
    }
  }
}

/** The first of those named who is here; of what an event is called, whoever's full name stands in it. */
function personOf(
  { people: called }: FileRow,
  names: Names,
  byId: ReadonlyMap<number, Person>
): Person | null {
  for (const text of called) {
    const id = names.meaning('owner', text);
    if (id !== undefined) return byId.get(Number(id)) ?? null;
  }
  const inText = [...byId.values()].filter(({ name }) =>
    called.some((text) => fold(text).includes(fold(name)))
  );
  return inText.length === 1 ? inText[0]! : null;
}

function spanWords(date: string, time: string | null): string {
  return time === null ? longDate(date) : `${longDate(date)}, ${time}`;
}
