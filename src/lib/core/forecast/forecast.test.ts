import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { Leave, leaveSpans } from '../calendar/leave.ts';
import { parseCalendar, parseIntervals, type WeekSpec } from '../calendar/spec.ts';
import { CLOSED_DAY_RULES, UNITS, isDayLevel } from '../ring/lead.ts';
import { whyText } from '../ring/why-text.ts';
import { blankDefinition } from '../rule/model.ts';
import { blankTell } from '../rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../rule/lead-model.ts';
import { PHASES, PRIORITIES } from '../task/model.ts';
import { MS_PER_DAY, parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { compileRule, type RuleFacts } from './facts/compile-rule.ts';
import { explainNotice } from './explain/explain.ts';
import {
  ORDINARY,
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from './facts/facts.ts';
import { REMINDER_OFFSETS, taskReminder } from './facts/reminders.ts';
import { forecast } from './forecast.ts';
import { shownAt } from './simulate/plain-rules.ts';
import { Planner } from './plan/planner.ts';
import type { PlannedNotice } from './plan/planned-notice.ts';

const week = (days: readonly (keyof WeekSpec)[], hours: string): WeekSpec =>
  Object.fromEntries(days.map((day) => [day, [hours]]));
const PLACES = [
  ['Europe/Lisbon', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['America/Halifax', week(['mon', 'tue', 'wed', 'thu', 'fri'], '09:00-17:00')],
  ['Asia/Muscat', week(['sun', 'mon', 'tue', 'wed', 'thu'], '08:00-16:00')],
  ['Pacific/Chatham', week(['mon', 'tue', 'wed'], '22:00-06:00')]
] as const;

const people = PLACES.map(([zoneName, spec], i): PersonFacts => {
  const zone = zoneNamed(zoneName);
  const calendar = new CompiledCalendar(parseCalendar({ week: spec, closed: ['2026-03-09'] }), zone);
  const email = i === 3 ? null : `p${i}@test.example`;
  const basis = { id: i + 1, name: `Person ${i}`, email, zone, calendar, managerId: i > 0 ? 1 : null };
  if (i !== 1) return { ...basis, ...ORDINARY, quiet: parseIntervals(['21:00-08:30']) };
  // The second is away twice: in the first week somebody stands in, in the second nobody does.
  const spans = leaveSpans(
    [
      { from: '2026-03-10', to: '2026-03-13T12:00' },
      { from: '2026-03-18', to: '2026-03-20' }
    ],
    zone
  );
  const [from, until] = spans[0]!;
  return { ...basis, ...ORDINARY, leave: new Leave(spans), standIns: [{ from, until, personId: 3 }] };
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

const NOW = parseDay('2026-03-05') * MS_PER_DAY + 460 * 60_000;
const anyTask = fc.record({
  name: fc.constant('Task'),
  projectId: fc.constant(null),
  ownerId: fc.constantFrom(null, 1, 2, 3, 4),
  due: fc.option(
    fc.record({
      day: fc.integer({ min: parseDay('2026-02-25'), max: parseDay('2026-04-10') }),
      minute: fc.constantFrom(null, 0, 570, 1439),
      zone: fc.constant(people[1]!.zone)
    })
  ),
  start: fc.constant(null),
  phase: fc.constantFrom(...PHASES),
  priority: fc.constantFrom(...PRIORITIES),
  round: fc.constant(0),
  private: fc.constant(false),
  otherOwnerIds: fc.subarray([2, 3], { maxLength: 2 }),
  remindOn: fc.option(fc.constant({ day: parseDay('2026-03-12'), minute: null, zone: null })),
  aside: fc.constantFrom(null, 'parked' as const),
  register: fc.constant(false),
  acknowledged: fc.constant(false),
  made: fc.constant(null),
  silences: fc
    .subarray([1, 4], { maxLength: 1 })
    .map((ids) => ids.map((personId) => ({ personId, from: 0, until: null }))),
  reminders: fc.array(
    fc.record({ personId: fc.constantFrom(null, 1, 4), offset: fc.constantFrom(...REMINDER_OFFSETS) }),
    { maxLength: 2 }
  )
});
const anyTasks = fc.array(anyTask, { maxLength: 12 }).map((tasks) =>
  tasks.map((task, i): TaskFacts => ({
    id: i + 1,
    ...task,
    reminders: task.reminders.map(({ personId, offset: [n, unit] }, at) =>
      taskReminder(i * 10 + at, personId, { anchor: 'due', n: -n, unit }, at)
    )
  }))
);
const anyLead = fc
  .record({
    n: fc.integer({ min: -6, max: 6 }),
    unit: fc.constantFrom(...UNITS),
    closedDay: fc.constantFrom(...CLOSED_DAY_RULES),
    time: fc.constantFrom(null, '00:00', '09:00', '23:30')
  })
  .map(({ n, unit, closedDay, time }): Omit<OffsetLead, 'id'> => {
    const day = isDayLevel(unit);
    return {
      kind: 'offset',
      repeat: null,
      only: null,
      anchor: 'due',
      n,
      unit,
      closedDay: day ? closedDay : 'as-is',
      time: day ? time : null,
      zone: { of: 'recipient' },
      on: true
    };
  });
const anyRules = fc
  .array(fc.tuple(fc.array(anyLead, { minLength: 1, maxLength: 4 }), fc.constantFrom('owner', 'manager')), {
    minLength: 1,
    maxLength: 3
  })
  .map((rules) =>
    rules.map(([leads, to], i): RuleFacts => {
      const blank = blankDefinition();
      const withIds = leads.map((lead, j) => ({ ...lead, id: `${i}-${j}` }));
      return compileRule(i + 1, `Rule ${i}`, i, {
        ...blank,
        leads: withIds,
        steps: [{ ...blankTell(), to: [to === 'owner' ? { who: 'owner' } : { who: 'manager', up: 1 }] }]
      });
    })
  )
  .map((rules) => {
    const reminders = { ...blankDefinition(), leads: [] };
    return [compileRule(99, 'Reminders', 0, reminders, { ofTask: true }), ...rules];
  });
const until = (days: number) => NOW + days * MS_PER_DAY;
const plan = (rules: readonly RuleFacts[], tasks: readonly TaskFacts[], from = NOW, to = until(60)) => [
  ...forecast(facts, rules, tasks, { now: NOW, from, until: to }).notices
];

describe('the forecast', () => {
  it('of many tasks is that of each alone', () => {
    fc.assert(
      fc.property(anyRules, anyTasks, (rules, tasks) => {
        const together = plan(rules, tasks);
        for (const task of tasks)
          expect(together.filter(({ taskId }) => taskId === task.id)).toEqual(plan(rules, [task]));
      }),
      { numRuns: 120 }
    );
  });

  it('of tasks that are alike is that of each alone, whatever has rung for one of them', () => {
    const owners = [...facts.people.keys()].slice(0, 2);
    const anyAlike = fc.array(
      fc.record({
        ownerId: fc.constantFrom(...owners),
        day: fc.constantFrom(0, 1, 4),
        start: fc.constantFrom(null, 2),
        quiet: fc.constantFrom(false, false, true),
        touched: fc.constantFrom(false, false, true)
      }),
      { minLength: 10, maxLength: 40 }
    );
    fc.assert(
      fc.property(anyRules, anyAlike, (rules, alike) => {
        const today = Math.floor(NOW / MS_PER_DAY);
        const tasks = alike.map(({ ownerId, day, start, quiet }, i): TaskFacts => ({
          ...{ id: i + 1, name: `Task ${i}`, projectId: null, ownerId, phase: 'under way', priority: 'high' },
          ...{ round: 0, private: false, ...ORDINARY_TASK },
          due: { day: today + 2 + day, minute: null, zone: null },
          start: start === null ? null : { day: today + start, minute: null, zone: null },
          silences: quiet ? [{ personId: ownerId, from: 0, until: null }] : []
        }));
        const touched = new Set(tasks.filter((_, i) => alike[i]!.touched).map(({ id }) => id));
        const history = {
          untouched: (id: number) => !touched.has(id),
          occupied: (_: unknown, { id }: { id: number }, { lead }: { lead: { order: number } }) =>
            touched.has(id) && lead.order === 0
        };
        const window = { now: NOW, from: NOW, until: until(60) };
        const of = (some: readonly TaskFacts[]) => [...forecast(facts, rules, some, window, history).notices];
        const together = of(tasks);
        for (const task of tasks)
          expect(together.filter(({ taskId }) => taskId === task.id)).toEqual(of([task]));
      }),
      { numRuns: 60 }
    );
  });

  it('is only selected from by a window: two windows side by side are the one over both', () => {
    fc.assert(
      fc.property(anyRules, anyTasks, fc.integer({ min: 1, max: 40 }), (rules, tasks, days) => {
        const first = plan(rules, tasks, NOW, until(days));
        const second = plan(rules, tasks, until(days), until(60));
        expect([...first, ...second]).toEqual(plan(rules, tasks));
      }),
      { numRuns: 120 }
    );
  });

  it('never sends before it rings, nor two of one rule, task and reader at one instant', () => {
    fc.assert(
      fc.property(anyRules, anyTasks, (rules, tasks) => {
        const seen = new Set<string>();
        for (const notice of plan(rules, tasks)) {
          expect(shownAt(notice)).toBeGreaterThan(NOW);
          if (notice.unrung !== null) continue;
          expect(notice.leavesAt).toBeGreaterThanOrEqual(notice.ringAt);
          const key = [notice.ruleId, notice.taskId, notice.recipientId, notice.leavesAt].join('/');
          expect(seen).not.toContain(key);
          seen.add(key);
        }
      }),
      { numRuns: 120 }
    );
  });

  it('says nothing of finished work, and names those who cannot be reached', () => {
    fc.assert(
      fc.property(anyRules, anyTasks, (rules, tasks) => {
        const byId = new Map(tasks.map((task) => [task.id, task]));
        for (const { taskId, recipientId, unrung } of plan(rules, tasks)) {
          expect(['finished', 'closed']).not.toContain(byId.get(taskId)!.phase);
          if (recipientId === 4) expect(['never reachable', 'hushed', 'stuck on others']).toContain(unrung);
        }
      }),
      { numRuns: 40 }
    );
  });
});

describe('why', () => {
  const explain = (rules: RuleFacts[], task: TaskFacts, notice: PlannedNotice) =>
    explainNotice(new Planner(facts), { rule: rules[0]!, task }, notice, NOW).map(whyText);

  it('leads to the very instant that was planned', () => {
    fc.assert(
      fc.property(anyRules, anyTasks, (rules, tasks) => {
        const planner = new Planner(facts);
        for (const notice of plan([rules[0]!], tasks)) {
          const task = tasks.find(({ id }) => id === notice.taskId)!;
          const steps = explainNotice(planner, { rule: rules[0]!, task }, notice, NOW);
          expect(steps.length).toBeGreaterThan(0);
          for (const step of steps) expect(whyText(step)).not.toMatch(/undefined|NaN|null/);
          const held = steps.some(({ code }) => ['held', 'held-quiet', 'away-waits'].includes(code));
          expect(held).toBe(notice.leavesAt > notice.ringAt);
        }
      }),
      { numRuns: 40 }
    );
  });

  it('can be checked by hand', () => {
    const blank = blankDefinition();
    const lead = offsetLead('a', -1, 'day', { time: '08:00' });
    const rules = [
      compileRule(1, 'Day before', 0, {
        ...blank,
        leads: [lead],
        steps: [{ ...blankTell(), to: [{ who: 'owner' }] }]
      })
    ];
    const task: TaskFacts = {
      id: 1,
      name: 'Dive permit',
      projectId: null,
      ownerId: 3,
      due: { day: parseDay('2026-03-15'), minute: null, zone: null },
      start: null,
      phase: 'under way',
      priority: 'high',
      round: 0,
      private: false,
      ...ORDINARY_TASK
    };
    const [notice] = plan(rules, [task]);
    expect(explain(rules, task, notice!)).toEqual([
      'The due date is Sunday 15 March 2026.',
      '1 day before is Saturday 14 March 2026.',
      'Saturday 14 March 2026 is closed, so it moves earlier to Thursday 12 March 2026.',
      'The rule rings at 08:00 in Muscat.'
    ]);
  });
});
