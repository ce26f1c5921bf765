import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE } from '../calendar/leave.ts';
import { parseCalendar } from '../calendar/spec.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from '../forecast/facts/facts.ts';
import { Planner } from '../forecast/plan/planner.ts';
import { lateWords, overdueWords } from '../ring/late-words.ts';
import { BANDS } from '../ring/overdue.ts';
import { PHASES, PRIORITIES } from '../task/model.ts';
import { NO_DETAILS, type TaskDetails } from '../task/details.ts';
import { parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { checkDigest } from './check.ts';
import { changeWords } from './roll-up-part.ts';
import { shownRows } from './written.ts';
import { DigestTasks, digestContents, digestWatch, type DigestAsked } from './contents.ts';
import { DIGEST_PARTS, DIGEST_SECTIONS, blankDigest, isTable, type DigestSection } from './model.ts';
import { digestReaders, reportsOf } from './readers.ts';
import { nextOwnDigest } from './when.ts';

const WEEK = Object.fromEntries(
  (['mon', 'tue', 'wed', 'thu', 'fri'] as const).map((day) => [day, ['09:00-17:00']])
);
const person = (id: number, zoneName: string, managerId: number | null): PersonFacts => {
  const zone = zoneNamed(zoneName);
  const calendar = new CompiledCalendar(parseCalendar({ week: WEEK, closed: ['2026-03-04'] }), zone);
  return { ...ORDINARY, id, name: `Person ${id}`, email: `p${id}@test.example`, zone, calendar, managerId };
};
const PEOPLE = [
  person(1, 'Europe/Lisbon', null),
  person(2, 'Asia/Kolkata', 1),
  person(3, 'America/Halifax', 2),
  person(4, 'Australia/Hobart', 1)
];
const details = new Map<number, TaskDetails>();
const lisbon = PEOPLE[0]!;
const facts: Facts = {
  ...ORDINARY_FACTS,
  workspace: { zone: lisbon.zone, calendar: lisbon.calendar, noticeMinute: 540, endOfDay: 'midnight' },
  people: new Map(PEOPLE.map((one) => [one.id, one])),
  projects: new Map(),
  detailsOf: (id) => details.get(id) ?? NO_DETAILS
};
const planner = new Planner(facts);

const task = (id: number, patch: Partial<TaskFacts> & { dueOn?: string | null } = {}): TaskFacts => {
  const { dueOn = null, ...rest } = patch;
  const due = dueOn === null ? null : { day: parseDay(dueOn), minute: null, zone: null };
  const basis = { id, name: `Task ${id}`, projectId: null, ownerId: 1, due, start: null, round: 0 };
  return { ...ORDINARY_TASK, ...basis, phase: 'under way', priority: 'ordinary', private: false, ...rest };
};

function contents(
  tasks: TaskFacts[],
  patch: Partial<DigestAsked> & { about?: 'own' | 'reports' | 'everybody' }
) {
  const definition = { ...blankDigest(), sections: [...DIGEST_SECTIONS], about: patch.about ?? 'own' };
  return digestContents(planner, new DigestTasks(tasks), {
    definition,
    watch: digestWatch(definition, facts),
    detailsOf: facts.detailsOf,
    listed: null,
    statuses: new Map(),
    seenBy: lisbon.id,
    reader: lisbon,
    parts: DIGEST_PARTS,
    at: Date.parse('2026-03-05T08:00:00Z'),
    since: Date.parse('2026-03-04T08:00:00Z'),
    before: null,
    ...patch
  });
}
const idsIn = (made: ReturnType<typeof contents>, section: DigestSection) =>
  made.sections.find((one) => one.section === section)?.rows.map(({ task: { id } }) => id) ?? null;

describe('what a digest holds', () => {
  it('lists what is overdue worst first: working age, priority, due moment, id', () => {
    details.clear();
    for (const id of [1, 2, 3, 4, 5]) details.set(id, { ...NO_DETAILS, acknowledged: true });
    const made = contents(
      [
        task(1, { dueOn: '2026-03-03' }),
        task(2, { dueOn: '2026-02-27' }),
        task(3, { dueOn: '2026-03-03', priority: 'pressing' }),
        // A closed Wednesday after a Tuesday: no working day more than those due on it, but earlier.
        task(4, { dueOn: '2026-03-04' }),
        task(5, { dueOn: '2026-02-27' })
      ],
      {}
    );
    expect(idsIn(made, 'overdue')).toEqual([2, 5, 3, 1, 4]);
  });

  it('a task stands in the first section that it fits, on the reader’s own day', () => {
    details.clear();
    details.set(5, { ...NO_DETAILS, assignedAt: Date.parse('2026-03-04T20:00:00Z') });
    const made = contents(
      [
        task(1, { dueOn: '2026-03-05' }),
        task(2, { dueOn: '2026-03-10' }),
        task(3, { dueOn: '2026-03-11' }),
        task(4, { start: { day: parseDay('2026-03-05'), minute: null, zone: null } }),
        task(5),
        task(6),
        task(7, { dueOn: '2026-03-05', aside: 'parked' })
      ],
      {}
    );
    expect(idsIn(made, 'due today')).toEqual([1]);
    // Thursday: Friday, Monday, Tuesday are the next three working days.
    expect(idsIn(made, 'due next')).toEqual([2]);
    expect(idsIn(made, 'starts today')).toEqual([4]);
    expect(idsIn(made, 'newly assigned')).toEqual([5]);
    expect(idsIn(made, 'undated')).toEqual([6]);
  });

  it('what is acknowledged needs no acknowledgement; time that is owed stays until it is logged', () => {
    details.clear();
    details.set(2, { ...NO_DETAILS, acknowledged: true });
    details.set(3, { ...NO_DETAILS, logTime: true, finishedAt: 0 });
    details.set(4, { ...NO_DETAILS, logTime: true, finishedAt: 0, minutesLogged: 30 });
    const late = { dueOn: '2026-03-02' };
    const done = { ...late, phase: 'finished' as const };
    const made = contents([task(1, late), task(2, late), task(3, done), task(4, done)], {});
    expect(idsIn(made, 'needs acknowledgement')).toEqual([1]);
    expect(idsIn(made, 'overdue')).toEqual([2]);
    expect(idsIn(made, 'time to be logged')).toEqual([3]);
    expect(idsIn(made, 'finished')).toEqual([]);
  });

  it('says what its owner has not placed for over two working days, and whose owner has not looked for ten', () => {
    // Thursday 5 March, after a closed Wednesday: the third working day after Friday 27 February, the second after Monday 2 March;
    // the tenth after Wednesday 18 February, the ninth after Thursday 19.
    const on = (day: string) => Date.parse(`2026-${day}T10:00:00Z`);
    const looked = { ownerLookedAt: on('03-03') };
    details.set(1, { ...NO_DETAILS, assignedAt: on('02-27'), placed: false, ...looked });
    details.set(2, { ...NO_DETAILS, assignedAt: on('03-02'), placed: false, ...looked });
    details.set(3, { ...NO_DETAILS, assignedAt: on('02-27'), placed: true, ownerLookedAt: on('02-18') });
    details.set(4, { ...NO_DETAILS, assignedAt: on('02-19'), placed: true });
    const definition = { ...blankDigest(), sections: ['not placed', 'not looked'] as DigestSection[] };
    const tasks = [1, 2, 3, 4].map((id) => task(id));
    const made = contents(tasks, { definition });
    expect([idsIn(made, 'not placed'), idsIn(made, 'not looked')]).toEqual([[1], [3]]);
  });

  it('of a person’s two digests each holds its own sections', () => {
    const tasks = [task(1, { dueOn: '2026-03-02' }), task(2, { dueOn: '2026-03-05' })];
    const [due, overdue] = [contents(tasks, { parts: ['due'] }), contents(tasks, { parts: ['overdue'] })];
    expect([idsIn(due, 'overdue'), idsIn(due, 'due today')]).toEqual([null, [2]]);
    expect([idsIn(overdue, 'needs acknowledgement'), idsIn(overdue, 'due today')]).toEqual([[1], null]);
  });

  it('in a roll-up “today” is each owner’s, and everybody below counts', () => {
    // At 20:00Z on 5 March it is the 6th in Kolkata and Hobart, still the 5th in Lisbon and Halifax.
    const at = Date.parse('2026-03-05T20:00:00Z');
    const made = contents(
      [2, 3, 4, 1].map((ownerId, i) => task(i + 1, { ownerId, dueOn: '2026-03-06' })),
      { about: 'reports', at }
    );
    expect(idsIn(made, 'due today')).toEqual([3, 1]);
    expect(made.rollUp!.total).toMatchObject({ open: 3, overdue: 0, dueToday: 2 });
    expect(made.rollUp!.lines.map(({ personId }) => personId)).toEqual([2, 3, 4]);
  });

  it('its numbers are those of a plain count, and its sections share no task', () => {
    const someTask = fc.record({
      ownerId: fc.constantFrom(null, 1, 2, 3, 4),
      phase: fc.constantFrom(...PHASES),
      priority: fc.constantFrom(...PRIORITIES),
      day: fc.option(fc.integer({ min: parseDay('2026-02-10'), max: parseDay('2026-03-20') })),
      register: fc.boolean()
    });
    fc.assert(
      fc.property(fc.array(someTask, { maxLength: 40 }), (given) => {
        const tasks = given.map(({ day, ...rest }, i) =>
          task(i + 1, { ...rest, due: day === null ? null : { day, minute: null, zone: null } })
        );
        const at = Date.parse('2026-03-05T12:00:00Z');
        const { rollUp, sections, counts } = contents(tasks, { about: 'everybody', reader: null, at });
        const late = tasks.filter(({ due, phase, register, ownerId }) => {
          if (!due || register || phase === 'finished' || phase === 'closed') return false;
          const { zone } = PEOPLE.find(({ id }) => id === ownerId) ?? lisbon;
          return zone.dayOf(at) > due.day;
        });
        expect(rollUp!.total.overdue).toBe(late.length);
        expect(rollUp!.lines.reduce((sum, { overdue }) => sum + overdue, 0)).toBe(late.length);
        expect(rollUp!.total.byBand.reduce((sum, n) => sum + n, 0)).toBe(late.length);
        expect(counts.overdue).toBe(late.length);
        const open = tasks.filter(({ phase }) => phase !== 'finished' && phase !== 'closed');
        const table = sections.find(({ section }) => section === 'all open')!;
        expect(table.rows.map(({ task: { id } }) => id).sort()).toEqual(open.map(({ id }) => id).sort());
        const firstFit = sections.filter(({ section }) => !isTable(section));
        const listed = firstFit.flatMap(({ rows }) => rows.map(({ task: { id } }) => id));
        expect(new Set(listed).size).toBe(listed.length);
      })
    );
  });

  it('compares with the last one that was sent: nobody is left out who had something late then', () => {
    const before = { overdue: { 2: 3 }, total: 3 };
    const late = [task(1, { ownerId: 4, dueOn: '2026-02-27' })];
    const { rollUp } = contents(late, { about: 'everybody', before });
    expect(rollUp!.lines.map(({ personId, overdue, change }) => [personId, overdue, change])).toEqual([
      [4, 1, 1],
      [2, 0, -3]
    ]);
    expect(rollUp!.total).toMatchObject({ overdue: 1, change: -2 });
    expect(changeWords({ change: -2 })).toBe(' (2 fewer than last time)');
    expect(changeWords({ change: null })).toBe('');
    expect(rollUp!.total.byBand).toHaveLength(BANDS.length);
  });
});

describe('who reads it, and when', () => {
  it('everybody below, each once; a circle of managers ends where it began', () => {
    expect(reportsOf(1, facts.people).map(({ id }) => id)).toEqual([2, 4, 3]);
    const circle = new Map([
      [1, { ...PEOPLE[0]!, managerId: 2 }],
      [2, { ...PEOPLE[1]!, managerId: 1 }]
    ]);
    expect(reportsOf(1, circle).map(({ id }) => id)).toEqual([2]);
    expect(reportsOf(2, circle).map(({ id }) => id)).toEqual([1]);
  });

  it('names people of the team alone, those who are active, each once', () => {
    const outside = { ...PEOPLE[1]!, id: -7 };
    const gone = { ...PEOPLE[2]!, active: false };
    const people = new Map([...facts.people, [-7, outside], [3, gone]]);
    const of = { ...facts, people, readerLists: new Map([[1, [{ who: 'person' as const, id: 2 }]]]) };
    const to = [{ who: 'everybody' as const }, { who: 'readers' as const, id: 1 }];
    expect(digestReaders({ to }, of, null).map(({ id }) => id)).toEqual([1, 2, 4]);
    expect(digestReaders({ to: [{ who: 'managers' }] }, of, null).map(({ id }) => id)).toEqual([1]);
  });

  it('two hours of a person are two messages, the same hour is one, none on a closed day', () => {
    const at = (due: number | null, overdue: number | null, after: string) => {
      const next = nextOwnDigest(Date.parse(after), {
        ...{ zone: lisbon.zone, calendar: lisbon.calendar, leave: NO_LEAVE },
        digestMinutes: { due, overdue }
      });
      return next && [new Date(next.at).toISOString().slice(0, 16), ...next.parts];
    };
    expect(at(480, 480, '2026-03-03T12:00Z')).toEqual(['2026-03-05T08:00', 'due', 'overdue']);
    expect(at(480, 960, '2026-03-03T12:00Z')).toEqual(['2026-03-03T16:00', 'overdue']);
    expect(at(480, null, '2026-03-03T07:59Z')).toEqual(['2026-03-03T08:00', 'due']);
    expect(at(null, null, '2026-03-03T07:59Z')).toBeNull();
  });

  it('refuses what it cannot be', () => {
    const refused = (patch: Partial<ReturnType<typeof blankDigest>>) => () =>
      checkDigest({ ...blankDigest(), ...patch }, facts, 0);
    expect(refused({ to: [] })).toThrow('The digest goes to nobody. Choose a recipient.');
    expect(refused({ sections: [] })).toThrow('section');
    const sections = ['all of a list' as const];
    expect(refused({ sections })).toThrow('Choose the saved list');
    const table = { ...blankDigest().table, list: 7 };
    expect(refused({ sections, table })).toThrow('The saved list of this digest was not found.');
    expect(refused({ watch: { ...blankDigest().watch, list: 7 } })).toThrow('was not found');
    const unfit = { ...facts, lists: new Map([[7, 'it searches for words']]) };
    expect(() => checkDigest({ ...blankDigest(), sections, table }, unfit, 0)).toThrow(
      'A digest cannot use that saved list: it searches for words.'
    );
    expect(refused({ gather: 'together' })).toThrow(
      'One message for all must be about everybody’s work. Change this, or send one each.'
    );
    const when = {
      by: 'schedule',
      start: '2026-03-02',
      time: '19:00',
      zone: null,
      closedDay: 'skip'
    } as const;
    expect(refused({ when: { ...when, rrule: 'FREQ=MINUTELY' } })).toThrow('every 5 minutes');
    expect(refused({ when: { ...when, rrule: 'FREQ=SOMETIMES' } })).toThrow();
  });
});

it('shows at most fifty rows of a section and two hundred in all', () => {
  expect(shownRows([10, 5_000, 3])).toEqual([10, 50, 3]);
  expect(shownRows([60, 60, 60, 60, 60])).toEqual([50, 50, 50, 50, 0]);
});

it('says how late something is: since when, below a working day', () => {
  const at = Date.parse('2026-03-05T15:00:00Z');
  const { zone } = lisbon;
  expect(lateWords(Date.parse('2026-03-05T12:00:00Z'), 0, at, zone)).toBe('since 12:00 today');
  // Friday the 27th ends at midnight; on Sunday the 1st no working day has begun since.
  expect(lateWords(Date.parse('2026-02-28T00:00:00Z'), 0, Date.parse('2026-03-01T12:00:00Z'), zone)).toBe(
    'since Friday'
  );
  expect(lateWords(Date.parse('2026-02-20T00:00:00Z'), 0, at, zone)).toBe('since Thu 19 Feb');
  expect(lateWords(Date.parse('2026-03-04T00:00:00Z'), 1, at, zone)).toBe('1 working day overdue');
  expect(overdueWords(Date.parse('2026-03-05T12:00:00Z'), 0, at, zone)).toBe('overdue since 12:00 today');
  expect(overdueWords(Date.parse('2026-03-04T00:00:00Z'), 1, at, zone)).toBe('1 working day overdue');
  expect(lateWords(Date.parse('2026-02-27T00:00:00Z'), 4, at, zone)).toBe('4 working days overdue');
});
