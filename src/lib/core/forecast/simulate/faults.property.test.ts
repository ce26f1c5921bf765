import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../../calendar/compiled.ts';
import { parseCalendar, type WeekSpec } from '../../calendar/spec.ts';
import type { Condition } from '../../rule/condition.ts';
import { blankDefinition } from '../../rule/model.ts';
import { blankTell, type Recipient, type Step } from '../../rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../../rule/lead-model.ts';
import { MS_PER_DAY, parseDay } from '../../time/day.ts';
import { zoneNamed } from '../../time/zone.ts';
import { compileRule, type RuleFacts } from '../facts/compile-rule.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from '../facts/facts.ts';
import { forecast } from '../forecast.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';

/**
 * In workspaces with faulty rules, calendars and ring times every rule that is not faulty for a task rings for it exactly as in the workspace
 * without the faulty ones.
 */
const OPEN = ['09:00-17:00'];
const WEEKS: readonly WeekSpec[] = [
  { mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN, fri: OPEN },
  { sun: OPEN, mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN },
  // Nobody works by this one, and nothing can be counted on it.
  {}
];
const people = WEEKS.map((week, i): PersonFacts => {
  const zone = zoneNamed(['Europe/Lisbon', 'Asia/Muscat', 'America/Halifax'][i]!);
  const calendar = new CompiledCalendar(parseCalendar({ week }), zone);
  const basis = { id: i + 1, name: `Person ${i}`, email: `p${i}@test.example`, zone, calendar };
  return { ...basis, ...ORDINARY, managerId: i > 0 ? 1 : null };
});
const facts: Facts = {
  ...ORDINARY_FACTS,
  workspace: {
    zone: people[0]!.zone,
    calendar: people[0]!.calendar,
    noticeMinute: 540,
    endOfDay: 'midnight'
  },
  people: new Map(people.map((person) => [person.id, person])),
  projects: new Map()
};
const NOW = parseDay('2026-03-05') * MS_PER_DAY;
const WINDOW = { now: NOW, from: NOW, until: NOW + 45 * MS_PER_DAY };

const anyRepeat = fc.constantFrom<OffsetLead['repeat']>(
  null,
  null,
  { n: 1, unit: 'day', most: 3 },
  { n: 1, unit: 'workday', most: 2 },
  { n: 1, unit: 'week', most: 2 }
);
const anyLead = fc
  .record({
    n: fc.constantFrom(-100_000, -3, -2, -1, 0, 1, 2, 100_000),
    unit: fc.constantFrom('day' as const, 'workday' as const, 'hour' as const, 'workhour' as const),
    closedDay: fc.constantFrom('earlier' as const, 'later' as const, 'skip' as const, 'as-is' as const),
    repeat: anyRepeat
  })
  .map(({ n, unit, closedDay, repeat }): Omit<OffsetLead, 'id'> => {
    const { id: _id, ...lead } = offsetLead('', n, unit, {
      closedDay: unit === 'day' || unit === 'workday' ? closedDay : 'as-is',
      repeat
    });
    return lead;
  });
const anyCondition = fc.constantFrom<(Condition | null)[]>(null, null, {
  field: 'due',
  op: 'within the next working days',
  value: 3
});
const anyRecipients = fc.constantFrom<Recipient[]>(
  [{ who: 'owner' }],
  [{ who: 'manager', up: 1 }],
  [{ who: 'owner' }, { who: 'above', up: 1 }]
);
const anyRule = fc.record({
  leads: fc.array(anyLead, { minLength: 1, maxLength: 3 }),
  condition: anyCondition,
  to: anyRecipients,
  ifLate: fc.constantFrom('keep' as const, 'keep' as const, 'forward' as const, 'skip' as const),
  // What it adds to the task itself comes too late, or is beyond the dates.
  then: fc.constantFrom<('' | 'wait' | 'date')[]>('', '', 'wait', 'date')
});
const anyTask = fc.record({
  ownerId: fc.constantFrom(1, 2, 3, null),
  due: fc.integer({ min: parseDay('2026-03-06'), max: parseDay('2026-03-20') }),
  others: fc.subarray([2, 3], { maxLength: 1 })
});

const stepsAfter: Record<string, Step[]> = {
  '': [],
  wait: [
    {
      ...{ id: 'wait', kind: 'wait', name: '', description: '', leads: null, n: 1, unit: 'workday' },
      ...{ time: '09:00', closedDay: 'later', regardless: false }
    },
    { ...blankTell('again'), to: [{ who: 'owner' }] }
  ],
  date: [
    {
      ...{ id: 'date', kind: 'do', name: '', description: '', leads: null, ask: null },
      acts: [{ act: 'park', review: { from: 'due', n: 5, unit: 'workday' } }]
    }
  ]
};

/** Of one instant several may stand in either order. */
const inOrder = (notices: PlannedNotice[]) => notices.map((notice) => JSON.stringify(notice)).sort();

describe('what cannot be computed', () => {
  it('keeps no other rule from ringing, for that task or another', () => {
    fc.assert(
      fc.property(
        fc.array(anyRule, { minLength: 1, maxLength: 4 }),
        fc.array(anyTask, { minLength: 1, maxLength: 5 }),
        (written, chosen) => {
          const rules = written.map(({ leads, condition, to, ifLate, then }, i): RuleFacts => {
            const blank = blankDefinition();
            return compileRule(i + 1, `Rule ${i}`, i, {
              ...blank,
              watch: { ...blank.watch, condition },
              leads: leads.map((lead, j) => ({ ...lead, id: `${i}-${j}` })),
              steps: [{ ...blankTell('first'), to }, ...stepsAfter[then]!],
              ifLate
            });
          });
          const tasks = chosen.map(({ ownerId, due, others }, i): TaskFacts => ({
            ...{ ...ORDINARY_TASK, id: i + 1, name: 'Task', projectId: null, round: 0, private: false },
            ...{ phase: 'under way', priority: 'ordinary', start: null },
            ownerId,
            otherOwnerIds: others.filter((id) => id !== ownerId),
            due: { day: due, minute: null, zone: null }
          }));
          const { notices, faults } = forecast(facts, rules, tasks, WINDOW);
          const faulty = new Set(faults.map(({ ruleId, taskId }) => `${ruleId}/${taskId}`));
          expect(faulty.size).toBe(faults.length);
          for (const task of tasks) {
            // A rule that parks a task changes what the others find.
            const isActing = rules.some(({ id, program }) => program.acts && faulty.has(`${id}/${task.id}`));
            const sound = rules.filter(({ id }) => !faulty.has(`${id}/${task.id}`));
            const alone = [...forecast(facts, sound, [task], WINDOW).notices];
            const together = [...notices].filter(
              ({ ruleId, taskId }) => taskId === task.id && !faulty.has(`${ruleId}/${taskId}`)
            );
            if (!isActing) expect(inOrder(together)).toEqual(inOrder(alone));
          }
        }
      ),
      { numRuns: 400 }
    );
  });

  it('promises nothing of a rule that cannot be planned for a task, by none of its ring times', () => {
    const definition = {
      ...blankDefinition(),
      leads: [offsetLead('a', -1, 'workday'), offsetLead('b', -2, 'hour')],
      steps: [{ ...blankTell(), to: [{ who: 'manager' as const, up: 1 }] }]
    };
    const task: TaskFacts = {
      ...{ ...ORDINARY_TASK, id: 1, name: 'Task', projectId: null, round: 0, private: false },
      ...{ phase: 'under way', priority: 'ordinary', start: null, ownerId: 3 },
      due: { day: parseDay('2026-03-10'), minute: null, zone: null }
    };
    const { notices, faults } = forecast(facts, [compileRule(1, 'Rule', 0, definition)], [task], WINDOW);
    expect([[...notices], faults.map(({ ruleId, taskId }) => [ruleId, taskId])]).toEqual([[], [[1, 1]]]);
  });

  it('rings once for a repeat of nothing, which stands still', () => {
    const definition = {
      ...blankDefinition(),
      leads: [offsetLead('a', 0, 'day', { repeat: { n: 0, unit: 'day', most: 5 } })],
      steps: [{ ...blankTell(), to: [{ who: 'owner' as const }] }]
    };
    const task: TaskFacts = {
      ...{ ...ORDINARY_TASK, id: 1, name: 'Task', projectId: null, round: 0, private: false },
      ...{ phase: 'under way', priority: 'ordinary', start: null, ownerId: 1 },
      due: { day: parseDay('2026-03-10'), minute: null, zone: null }
    };
    const { notices } = forecast(facts, [compileRule(1, 'Rule', 0, definition)], [task], WINDOW);
    expect([...notices].map(({ ordinal }) => ordinal)).toEqual([0]);
  });

  it('is found in less than a walk to the end of time', () => {
    const definition = {
      ...blankDefinition(),
      leads: [offsetLead('a', 0, 'day', { closedDay: 'skip', repeat: { n: 1, unit: 'week', most: 2 } })],
      steps: [{ ...blankTell(), to: [{ who: 'owner' as const }] }]
    };
    let rings = 0;
    const rule = compileRule(1, 'Rule', 0, definition);
    const counted = {
      ...people[0]!,
      get zone() {
        rings++;
        return people[0]!.zone;
      }
    };
    const task: TaskFacts = {
      ...{ ...ORDINARY_TASK, id: 1, name: 'Task', projectId: null, round: 0, private: false },
      ...{ phase: 'under way', priority: 'ordinary', start: null, ownerId: 1 },
      due: { day: parseDay('2026-03-07'), minute: null, zone: null }
    };
    const { notices, faults } = forecast(
      { ...facts, people: new Map([[1, counted]]) },
      [rule],
      [task],
      WINDOW
    );
    expect([[...notices], faults]).toEqual([[], []]);
    expect(rings).toBeLessThan(2_000);
  });
});
