import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ALWAYS_OPEN, parseCalendar } from '../calendar/spec.ts';
import { CompiledCalendar } from '../calendar/compiled.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type Facts,
  type TaskFacts
} from '../forecast/facts/facts.ts';
import { Planner } from '../forecast/plan/planner.ts';
import { NO_DETAILS, type TaskDetails } from '../task/details.ts';
import { MS_PER_DAY, parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { checkCondition } from './check-condition.ts';
import { compileCondition } from './compile-condition.ts';
import { BARE_NAMES, conditionWords } from './words/condition-words.ts';
import { MOST_TESTS, OPS, TESTED, type Condition, type Test } from './condition.ts';

/** Thursday 5 March 2026, 12:00 UTC; the owner is in Muscat and works from Sunday to Thursday. */
const NOW = parseDay('2026-03-05') * MS_PER_DAY + 12 * 3_600_000;
const OPEN = ['08:00-16:00'];
const muscat = zoneNamed('Asia/Muscat');
const week = parseCalendar({ week: { sun: OPEN, mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN } });
const owner = {
  id: 7,
  name: 'Salim',
  email: 's@t.example',
  zone: muscat,
  calendar: new CompiledCalendar(week, muscat),
  managerId: 1,
  ...ORDINARY
};
const utc = zoneNamed('UTC');
const anytime = new CompiledCalendar(ALWAYS_OPEN, utc);
const manager = { ...owner, id: 1, name: 'Ines', managerId: null };

function holds(
  condition: Condition,
  task: Partial<TaskFacts> = {},
  details: Partial<TaskDetails> = {},
  at = NOW
): boolean {
  const facts: Facts = {
    ...ORDINARY_FACTS,
    workspace: { zone: utc, calendar: anytime, noticeMinute: 540, endOfDay: 'midnight' },
    people: new Map([owner, manager].map((one) => [one.id, one])),
    projects: new Map(),
    groups: new Map([[3, new Set([7])]]),
    ownKinds: new Map([
      [1, 'number'],
      [2, 'date range'],
      [4, 'many choices']
    ]),
    detailsOf: () => ({
      ...NO_DETAILS,
      createdAt: NOW - 3 * MS_PER_DAY,
      touchedAt: NOW - 10 * MS_PER_DAY,
      ...details
    })
  };
  const planner = new Planner(facts);
  const whole: TaskFacts = {
    ...{
      id: 1,
      name: 'Renew the permit',
      projectId: null,
      ownerId: 7,
      due: null,
      start: null,
      phase: 'under way' as const
    },
    ...{ priority: 'high' as const, private: false, round: 0 },
    ...ORDINARY_TASK,
    ...task
  };
  return compileCondition(condition, facts.ownKinds)!.holds(planner.subject(whole, at, 1));
}
const due = (date: string) => ({ due: { day: parseDay(date), minute: null, zone: null } });

describe('a test of text', () => {
  it('is trimmed and takes no notice of case, in any script', () => {
    expect(holds({ field: 'name', op: 'is', value: '  RENEW the Permit ' })).toBe(true);
    expect(holds({ field: 'name', op: 'contains', value: 'PERMIT' })).toBe(true);
    expect(holds({ field: 'name', op: 'is', value: 'ÉTÉ' }, { name: 'été' })).toBe(true);
    expect(holds({ field: 'name', op: 'is', value: 'STRASSE' }, { name: 'Straße' })).toBe(true);
    expect(holds({ field: 'description', op: 'is empty' })).toBe(true);
  });
});

describe('empty fields', () => {
  it('pass negative tests and no comparison', () => {
    expect(holds({ field: 'description', op: 'is not', value: 'x' })).toBe(true);
    expect(holds({ field: 'owner', op: 'is not', value: 7 }, { ownerId: null })).toBe(true);
    expect(holds({ field: 'tag', op: 'none of', value: ['a'] })).toBe(true);
    expect(holds({ field: 'percent', op: 'differs from', value: 5 })).toBe(true);
    for (const op of ['equals', 'at least', 'at most', 'more than', 'less than'] as const)
      expect(holds({ field: 'percent', op, value: 0 })).toBe(false);
    for (const op of ['on', 'before', 'after'] as const)
      expect(holds({ field: 'due', op, value: '2026-03-05' })).toBe(false);
    for (const op of [
      'within the next days',
      'within the last days',
      'within the next working days'
    ] as const)
      expect(holds({ field: 'due', op, value: 400 })).toBe(false);
  });
});

describe('relative dates', () => {
  it('count today and the last day in', () => {
    const next = { field: 'due', op: 'within the next days', value: 2 } as const;
    expect(
      ['2026-03-04', '2026-03-05', '2026-03-07', '2026-03-08'].map((date) => holds(next, due(date)))
    ).toEqual([false, true, true, false]);
    const last = { field: 'due', op: 'within the last days', value: 2 } as const;
    expect(
      ['2026-03-02', '2026-03-03', '2026-03-05', '2026-03-06'].map((date) => holds(last, due(date)))
    ).toEqual([false, true, true, false]);
  });

  it('count working days by the owner: after Thursday in Muscat comes Sunday', () => {
    const next = { field: 'due', op: 'within the next working days', value: 1 } as const;
    expect(['2026-03-06', '2026-03-08', '2026-03-09'].map((date) => holds(next, due(date)))).toEqual([
      true,
      true,
      false
    ]);
    const ago = (value: number) => ({ field: 'due', op: 'more than working days ago', value }) as const;
    // Tuesday: Wednesday and Thursday lie between, today included.
    expect([1, 2].map((n) => holds(ago(n), due('2026-03-03')))).toEqual([true, false]);
  });

  it('are read on the owner’s day, unless the test names another, and at the instant of the test', () => {
    const today = { field: 'due', op: 'on', value: 'today' } as const;
    // 21:00 UTC on the 5th is the 6th in Muscat.
    const late = NOW + 9 * 3_600_000;
    expect(holds(today, due('2026-03-06'), {}, late)).toBe(true);
    expect(holds({ ...today, zone: { of: 'workspace' } }, due('2026-03-06'), {}, late)).toBe(false);
    expect(
      holds({ ...today, zone: { of: 'named', zone: 'America/Halifax' } }, due('2026-03-05'), {}, late)
    ).toBe(true);
  });

  it('of a date-time are those on the day where it is read', () => {
    const at = { due: { day: parseDay('2026-03-05'), minute: 23 * 60, zone: utc } };
    expect(holds({ field: 'due', op: 'on', value: '2026-03-06' }, at)).toBe(true);
    expect(holds({ field: 'due', op: 'on', value: '2026-03-05', zone: { of: 'workspace' } }, at)).toBe(true);
  });
});

describe('numbers and people', () => {
  it('are whole at the instant of the test', () => {
    expect(holds({ field: 'days since created', op: 'equals', value: 3 })).toBe(true);
    expect(holds({ field: 'days overdue', op: 'equals', value: 2 }, due('2026-03-03'))).toBe(true);
    expect(holds({ field: 'working days overdue', op: 'equals', value: 2 }, due('2026-03-03'))).toBe(true);
    // Due today: not overdue. Finished: never.
    expect(holds({ field: 'days overdue', op: 'equals', value: 0 }, due('2026-03-05'))).toBe(true);
    expect(
      holds({ field: 'days overdue', op: 'is empty' }, { ...due('2026-03-03'), phase: 'finished' })
    ).toBe(true);
  });

  it('know groups, and who stands above whom', () => {
    expect(holds({ field: 'owner', op: 'in group', value: 3 })).toBe(true);
    expect(holds({ field: 'owner', op: 'reports to', value: 1 })).toBe(true);
    expect(holds({ field: 'owner', op: 'reports to', value: 7 })).toBe(false);
  });

  it('of the workspace’s own fields go by their kind; a field that is gone holds for nothing', () => {
    const own = new Map<number, never>([
      [1, 4 as never],
      [2, { from: '2026-03-05', until: '2026-03-10' } as never],
      [4, ['red', 'blue'] as never]
    ]);
    expect(holds({ field: { own: 1 }, op: 'more than', value: 3 }, {}, { own })).toBe(true);
    expect(holds({ field: { own: 2, end: 'until' }, op: 'after', value: 'today' }, {}, { own })).toBe(true);
    expect(holds({ field: { own: 2 }, op: 'on', value: 'today' }, {}, { own })).toBe(true);
    expect(holds({ field: { own: 4 }, op: 'any of', value: ['Blue', 'x'] }, {}, { own })).toBe(true);
    expect(holds({ field: { own: 9 }, op: 'is empty' }, {}, { own })).toBe(false);
  });
});

describe('a tree', () => {
  const test: fc.Arbitrary<Test> = fc.constantFrom(
    { field: 'priority', op: 'is', value: 'high' },
    { field: 'priority', op: 'is', value: 'low' }
  );
  const tree = fc.letrec<{ tree: Condition }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small' },
      test,
      fc.record({ all: fc.array(tie('tree'), { maxLength: 3 }) }),
      fc.record({ any: fc.array(tie('tree'), { minLength: 1, maxLength: 3 }) }),
      fc.record({ none: fc.array(tie('tree'), { maxLength: 3 }) })
    )
  })).tree;
  const plain = (one: Condition): boolean => {
    if ('all' in one) return one.all.every(plain);
    if ('any' in one) return one.any.some(plain);
    if ('none' in one) return !one.none.some(plain);
    return one.value === 'high';
  };

  it('is what its parts say', () => {
    fc.assert(
      fc.property(tree, (one) => holds(one) === plain(one)),
      { numRuns: 300 }
    );
  });

  it('names the part that a task does not pass first', () => {
    const compiled = compileCondition(
      {
        all: [
          { field: 'name', op: 'is', value: 'x' },
          { field: 'keep', op: 'is yes' }
        ]
      },
      new Map()
    )!;
    const planner = new Planner({
      ...ORDINARY_FACTS,
      workspace: { zone: utc, calendar: anytime, noticeMinute: 540, endOfDay: 'midnight' },
      people: new Map(),
      projects: new Map()
    });
    const task = {
      ...{
        id: 1,
        name: 'x',
        projectId: null,
        ownerId: null,
        due: null,
        start: null,
        phase: 'under way',
        priority: 'low',
        private: false,
        round: 0
      },
      ...ORDINARY_TASK
    } as TaskFacts;
    expect(conditionWords(compiled.failing(planner.subject(task, NOW, 1))!, BARE_NAMES)).toBe(
      'keep mark is yes'
    );
  });
});

describe('what a condition cannot be', () => {
  const known = {
    ...{ project: () => true, person: (id: number) => id === 7, group: () => false, status: () => false },
    ...{ section: () => true, readers: () => true, rule: () => true, field: () => null },
    list: () => null
  };
  const refusal = (condition: Condition) => {
    try {
      checkCondition(condition, known);
      return null;
    } catch (error) {
      return (error as { code: string }).code;
    }
  };

  it('is said: too large, too deep, unfit, without a value, of something gone', () => {
    const one: Test = { field: 'name', op: 'is', value: 'x' };
    expect(refusal({ all: Array.from({ length: MOST_TESTS }, () => one) })).toBeNull();
    expect(refusal({ all: Array.from({ length: MOST_TESTS + 1 }, () => one) })).toBe('rule-too-many-tests');
    expect(refusal([...Array(9)].reduce((inner: Condition) => ({ any: [inner] }), one))).toBe(
      'rule-too-deep'
    );
    expect(refusal({ field: 'name', op: 'at least', value: 1 })).toBe('rule-test-unfit');
    expect(refusal({ field: 'name', op: 'is', value: '' })).toBe('rule-no-test-value');
    expect(refusal({ field: 'due', op: 'on', value: '2026-02-30' })).toBe('date-impossible');
    expect(refusal({ field: 'owner', op: 'is', value: 9 })).toBe('rule-names-gone');
    expect(refusal({ field: 'owner', op: 'in group', value: 1 })).toBe('rule-names-gone');
    expect(refusal({ field: { own: 1 }, op: 'is empty' })).toBe('rule-names-gone');
  });

  it('has words for every test of every field', () => {
    for (const [field, { kind }] of Object.entries(TESTED))
      for (const op of OPS[kind]) {
        const words = conditionWords({ field: field as keyof typeof TESTED, op, value: 3 }, BARE_NAMES);
        expect(words).toContain(TESTED[field as keyof typeof TESTED].label);
        expect(words).not.toContain('undefined');
      }
  });
});
