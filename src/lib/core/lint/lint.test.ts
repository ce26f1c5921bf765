import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { compileRule } from '../forecast/facts/compile-rule.ts';
import { ORDINARY_FACTS, ORDINARY_TASK, type Facts, type TaskFacts } from '../forecast/facts/facts.ts';
import { forecast } from '../forecast/forecast.ts';
import { Planner } from '../forecast/plan/planner.ts';
import { rhythmDays } from '../recurrence/rhythm-days.ts';
import { BARE_NAMES } from '../rule/words/condition-words.ts';
import { blankDefinition, openWatch, type RuleDefinition } from '../rule/model.ts';
import { blankTell } from '../rule/step-model.ts';
import { offsetLead, type Lead } from '../rule/lead-model.ts';
import { NO_DETAILS, type TaskDetails } from '../task/details.ts';
import { parseDay } from '../time/day.ts';
import type { Condition } from '../rule/condition.ts';
import { zoneNamed } from '../time/zone.ts';
import { applyMend } from './apply-mend.ts';
import { lintRule } from './lint.ts';
import type { LintCode } from './model.ts';
import { withDaysLeft } from './words-against-lead.ts';

const UTC = zoneNamed('UTC');
const FIVE = {
  mon: ['09:00-17:00'],
  tue: ['09:00-17:00'],
  wed: ['09:00-17:00'],
  thu: ['09:00-17:00'],
  fri: ['09:00-17:00']
};
const calendar = new CompiledCalendar(parseCalendar({ week: FIVE }), UTC);
const DETAILS = new Map<number, TaskDetails>();
const facts: Facts = {
  ...ORDINARY_FACTS,
  workspace: { zone: UTC, calendar, noticeMinute: 540, endOfDay: 'midnight' },
  people: new Map(),
  projects: new Map(),
  statuses: new Map([
    [1, 'waiting to start'],
    [2, 'under way']
  ]),
  detailsOf: (id) => DETAILS.get(id) ?? NO_DETAILS
};
const rule = (leads: Lead[], patch: Partial<RuleDefinition> = {}): RuleDefinition => ({
  ...blankDefinition(),
  leads,
  steps: [{ ...blankTell(), to: [{ who: 'coordinator' }] }],
  ...patch
});
const task = (id: number, due: string | null): TaskFacts => ({
  ...{
    id,
    name: `Task ${id}`,
    projectId: null,
    ownerId: null,
    start: null,
    phase: 'under way',
    priority: 'ordinary'
  },
  ...{ round: 0, private: false, ...ORDINARY_TASK },
  due: due === null ? null : { day: parseDay(due), minute: null, zone: null }
});
function lints(
  definition: RuleDefinition,
  { now = '2026-05-31T12:00Z', tasks = [] as TaskFacts[], others = [] as RuleDefinition[] } = {}
) {
  const at = Date.parse(now);
  const compiled = compileRule(1, 'One', 0, definition);
  const planner = new Planner(facts);
  const { notices } = forecast(facts, [compiled], tasks, { now: at, from: at, until: at + 28 * 86_400_000 });
  return lintRule({
    ...{
      ruleId: 1,
      definition,
      rule: compiled,
      names: BARE_NAMES,
      planner,
      now: at,
      zone: UTC,
      tasks,
      notices
    },
    statuses: [{ id: 1, name: 'To do' }],
    watched: tasks.filter((one) => planner.watches(compiled, one, at)),
    others: others.map((one, i) => ({ rule: compileRule(i + 2, `Other ${i + 2}`, 0, one), definition: one }))
  });
}
const codes = (...of: Parameters<typeof lints>): LintCode[] => lints(...of).map(({ code }) => code);

const weekly = (rrule = 'FREQ=WEEKLY;BYDAY=MO'): Lead => ({
  ...{ kind: 'schedule', id: 'week', on: true, only: null, zone: { of: 'workspace' } },
  ...{ rrule, start: '2026-06-01', time: '09:00', closedDay: 'skip', oncePerDate: true }
});
const within = (value: number) => ({
  watch: { ...openWatch(), condition: { field: 'due', op: 'within the next days', value } as const }
});

describe('a check rarer than its window', () => {
  it('every 7 days from Mon 1 June 2026 for 0 to 2 days: what is due on 4 to 7 June is missed', () => {
    const [lint] = lints(rule([weekly()], within(2)));
    expect(lint).toMatchObject({ code: 'check rarer than its window', part: 'ring' });
    expect(lint!.message).toContain('Thu 4 Jun to Sun 7 Jun');
    expect(lint!.mend).toMatchObject({ does: 'widen', from: 2, to: 6 });
    const mended = applyMend(rule([weekly()], within(2)), lint!.mend!, () => '');
    expect(codes(mended)).toEqual([]);
  });

  it('with a daily check none is missed', () => {
    const daily = { ...weekly('FREQ=DAILY'), closedDay: 'as-is' } as Lead;
    expect(codes(rule([daily], within(0)))).toEqual([]);
    // One that skips closed days does not look on Saturdays, and says so.
    expect(lints(rule([weekly('FREQ=DAILY')], within(0)))[0]!.message).toContain('Sat 6 Jun to Sun 7 Jun');
  });
});

describe('a test that holds on one day alone, on a schedule with gaps', () => {
  const watch = (condition: Condition) => ({ watch: { ...openWatch(), condition } });
  const remindToday = watch({ all: [{ field: 'remind on', op: 'on', value: 'today' }] });
  const daily = { ...weekly('FREQ=DAILY'), oncePerDate: false } as Lead;

  it('names the days without a look and the tasks that have theirs on one, and tells them at the next', () => {
    // Of the 61 days from Mon 1 June 2026 on, 16 are Saturdays and Sundays; 6 June is the first.
    const saturday = {
      ...task(1, null),
      remindOn: { day: parseDay('2026-06-06'), minute: null, zone: null }
    };
    const friday = { ...task(2, null), remindOn: { day: parseDay('2026-06-05'), minute: null, zone: null } };
    const definition = rule([daily], remindToday);
    const [lint] = lints(definition, { tasks: [saturday, friday] });
    expect(lint).toMatchObject({ code: 'exact day on a schedule with gaps', part: 'ring' });
    expect(lint!.message).toContain(
      'The rule does not ring on 16 of the next 61 days, first on Sat 6 Jun. Tasks for which “reminder date is on today” is true only on such a day are missed. 1 task has such a day in that time.'
    );
    expect(lint!.message).toContain('1 task has such a day in that time.');
    const mended = applyMend(definition, lint!.mend!, () => '');
    expect(mended.leads[0]).toMatchObject({
      oncePerDate: true,
      onceFor: { date: 'remind on' },
      since: '2026-05-31'
    });
    expect(mended.watch.condition).toBe(null);
    expect(codes(mended, { tasks: [saturday, friday] })).toEqual([]);
  });

  it('says nothing where it looks every day', () => {
    expect(codes(rule([{ ...daily, closedDay: 'as-is' } as Lead], remindToday))).toEqual([]);
  });

  it('a number of days becomes that number or more, once for each date', () => {
    const late = watch({ field: 'days overdue', op: 'equals', value: 3 });
    const definition = rule([daily], late);
    const mended = applyMend(definition, lints(definition)[0]!.mend!, () => '');
    expect(mended.watch.condition).toEqual({ field: 'days overdue', op: 'at least', value: 3 });
    expect(codes(mended)).toEqual([]);
  });
});

describe('loops', () => {
  const setsDue: RuleDefinition['steps'] = [
    {
      ...{ id: 'd', kind: 'do', name: '', description: '', leads: null, ask: null },
      acts: [{ act: 'set due', date: { from: 'today', n: 1, unit: 'day' }, time: null }]
    }
  ];
  const rings = (id: number): RuleDefinition['steps'] => [
    {
      ...{ id: 'r', kind: 'do', name: '', description: '', leads: null, ask: null },
      acts: [{ act: 'ring another', ruleId: id }]
    }
  ];
  const byHand: Lead = {
    ...{ kind: 'by hand', id: 'h', on: true, only: null, zone: { of: 'owner' } },
    caption: ''
  };
  const redated: Lead = {
    ...{ kind: 'event', id: 'e', on: true, only: null, zone: { of: 'owner' }, wide: false },
    event: 're-dated'
  };

  it('name the way round through other rules', () => {
    const found = lints(rule([byHand], { steps: rings(2) }), {
      others: [rule([byHand], { steps: rings(1) })]
    });
    expect(found).toMatchObject([
      {
        code: 'loop',
        message: expect.stringContaining(
          '“One” starts “Other 2” starts “One”: the rules start each other. The chain stops after eight.'
        )
      }
    ]);
  });

  it('are none where a rule only listens to what it does itself, and one where it moves the date it counts from', () => {
    expect(codes(rule([redated], { steps: setsDue }))).toEqual([]);
    expect(codes(rule([offsetLead('a', 1, 'day')], { steps: setsDue }))).toEqual(['loop']);
    // A ladder's clock starts again with another date.
    expect(codes(rule([offsetLead('a', 8, 'workhour', { anchor: 'ladder' })], { steps: setsDue }))).toEqual([
      'loop'
    ]);
    expect(
      codes(rule([redated], { steps: setsDue }), { others: [rule([redated], { steps: rings(9) })] })
    ).toEqual([]);
  });
});

describe('words against the lead', () => {
  const said = (subject: string, ...leads: Lead[]) =>
    codes(rule(leads, { steps: [{ ...blankTell(), to: [{ who: 'coordinator' }], subject, body: 'x' }] }));

  it('are found where plain words say a distance that a ring time has not', () => {
    const [one, two] = [offsetLead('a', -1, 'day'), offsetLead('b', -2, 'day')];
    expect(said('‹task› is due tomorrow', one)).toEqual([]);
    expect(said('‹task› is due tomorrow', one, two)).toEqual(['words against the lead']);
    expect(said('‹task› is due in 3 days', two)).toEqual(['words against the lead']);
    expect(said('‹task› is due in 2 days', two)).toEqual([]);
    expect(said('‹task› is overdue', two)).toEqual(['words against the lead']);
    expect(said('‹task› is ‹days left›', one, two)).toEqual([]);
  });

  it('are mended to what is computed', () => {
    expect(withDaysLeft('‹task› is due tomorrow')).toBe('‹task› is ‹days left›');
    expect(withDaysLeft('‹task›, due in 3 working days')).toBe('‹task›, ‹days left›');
  });
});

describe('what is not covered', () => {
  it('one status of several counts the open tasks in others', () => {
    DETAILS.set(1, { ...NO_DETAILS, statusId: 1 });
    DETAILS.set(2, { ...NO_DETAILS, statusId: 2 });
    const one = rule([offsetLead('a', -1, 'day'), offsetLead('b', 1, 'day')], {
      watch: { ...openWatch(), condition: { field: 'status', op: 'is', value: 1 } }
    });
    const found = lints(one, { tasks: [task(1, '2026-06-10'), task(2, '2026-06-10')] });
    expect(found).toMatchObject([
      { code: 'one status of several', message: '1 open task is not covered: its status is not “To do”.' }
    ]);
    expect(applyMend(one, found[0]!.mend!, () => '').watch.condition).toBeNull();
  });

  it('nothing after the due day is silent where another rule that is on rings then', () => {
    const before = rule([offsetLead('a', -1, 'day')]);
    const tasks = [task(3, '2026-06-10')];
    expect(codes(before, { tasks })).toEqual(['nothing after the due day']);
    expect(codes(before, { tasks, others: [rule([offsetLead('z', 1, 'day')])] })).toEqual([]);
    const [early, late] = [-8, 0].map((n) => offsetLead(`${n}`, n, 'workhour', { anchor: 'ladder' }));
    expect(codes(before, { tasks, others: [rule([late!])] })).toEqual([]);
    expect(codes(rule([early!]), { tasks })).toEqual(['nothing after the due day']);
    expect(codes(rule([early!, late!]), { tasks })).toEqual([]);
  });

  it('a lead longer than the rhythm names how many come back more often', () => {
    DETAILS.set(4, { ...NO_DETAILS, rhythmDays: 7 });
    const long = rule([offsetLead('a', -10, 'day'), offsetLead('b', 1, 'day')]);
    expect(lints(long, { tasks: [task(4, '2026-06-20')] })[0]).toMatchObject({
      code: 'lead longer than the rhythm',
      message: expect.stringContaining(
        'It rings 10 days ahead, but 1 recurring task repeats faster (every 7 days). That ring is never sent.'
      )
    });
  });
});

describe('days of a rhythm', () => {
  it.each([
    [{ n: 2, unit: 'week' as const }, 14],
    [{ n: 1, unit: 'month' as const }, 28],
    [{ rrule: 'FREQ=DAILY;INTERVAL=3' }, 3],
    [{ rrule: 'FREQ=WEEKLY;BYDAY=MO,WE' }, 1],
    [{ rrule: 'FREQ=MONTHLY;BYMONTHDAY=-1' }, 28],
    [{ rrule: 'FREQ=YEARLY' }, 365]
  ])('%j is at least %i', (rhythm, days) => expect(rhythmDays(rhythm)).toBe(days));
});
