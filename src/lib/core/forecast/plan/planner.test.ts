import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../../calendar/compiled.ts';
import { parseCalendar, type WeekSpec } from '../../calendar/spec.ts';
import { blankDefinition } from '../../rule/model.ts';
import { blankTell } from '../../rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../../rule/lead-model.ts';
import { parseDay } from '../../time/day.ts';
import { zoneNamed } from '../../time/zone.ts';
import { whyText } from '../../ring/why-text.ts';
import { compileRule } from '../facts/compile-rule.ts';
import { explainDue } from '../explain/explain.ts';
import {
  ORDINARY,
  ORDINARY_TASK,
  ORDINARY_FACTS,
  ORDINARY_PROJECT,
  type Facts,
  type PersonFacts,
  type ProjectFacts,
  type TaskFacts
} from '../facts/facts.ts';
import { Planner } from './planner.ts';

/** Whose zone and whose calendar decide: pinned and floating dates, the clocks a lead can go by, counting on the owner's days. */
const OPEN = ['09:00-17:00'];
const MON_FRI: WeekSpec = { mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN, fri: OPEN };
const SUN_THU: WeekSpec = { sun: OPEN, mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN };

const place = (zoneName: string, week: WeekSpec) => {
  const zone = zoneNamed(zoneName);
  return { zone, calendar: new CompiledCalendar(parseCalendar({ week }), zone) };
};
const LISBON = place('Europe/Lisbon', MON_FRI);
const MUSCAT = place('Asia/Muscat', SUN_THU);
const HALIFAX = place('America/Halifax', MON_FRI);
const person = (id: number, at: typeof LISBON, managerId: number | null = null): PersonFacts => ({
  id,
  name: `Person ${id}`,
  email: `p${id}@test.example`,
  managerId,
  ...ORDINARY,
  ...at
});
const project = (id: number, patch: Partial<ProjectFacts>): ProjectFacts => ({
  id,
  name: `Project ${id}`,
  zone: null,
  calendar: null,
  pinned: false,
  ...ORDINARY_PROJECT,
  ...patch
});

const facts = (endOfDay: 'midnight' | 'close' = 'midnight'): Facts => ({
  ...ORDINARY_FACTS,
  workspace: { ...LISBON, noticeMinute: 540, endOfDay },
  people: new Map([person(1, MUSCAT, 2), person(2, HALIFAX)].map((one) => [one.id, one])),
  projects: new Map(
    [
      project(1, { zone: HALIFAX.zone, calendar: HALIFAX.calendar, pinned: true }),
      project(2, { zone: HALIFAX.zone, calendar: HALIFAX.calendar }),
      project(3, { zone: HALIFAX.zone, pinned: true })
    ].map((one) => [one.id, one])
  )
});
const task = (patch: Partial<TaskFacts> = {}): TaskFacts => ({
  id: 1,
  name: 'Task',
  projectId: null,
  ownerId: 1,
  due: { day: parseDay('2026-03-08'), minute: null, zone: null },
  start: null,
  phase: 'under way',
  priority: 'ordinary',
  private: false,
  round: 0,
  ...ORDINARY_TASK,
  ...patch
});
const ruleOf = (lead: Partial<OffsetLead>, to: 'owner' | 'manager' = 'owner') =>
  compileRule(1, 'Rule', 1, {
    ...blankDefinition(),
    leads: [offsetLead('a', lead.n ?? -1, lead.unit ?? 'day', { time: '09:00', ...lead })],
    steps: [{ ...blankTell(), to: [to === 'owner' ? { who: 'owner' } : { who: 'manager', up: 1 }] }]
  });
const iso = (instant: number | null) =>
  instant === null ? null : new Date(instant).toISOString().slice(0, 16);

describe('the due moment of a date', () => {
  const dueOf = (patch: Partial<TaskFacts>, endOfDay: 'midnight' | 'close' = 'midnight') =>
    iso(new Planner(facts(endOfDay)).dates.momentOf('due', task(patch)));

  it('is the end of the day where its project pins it, else where its owner is', () => {
    expect(dueOf({})).toBe('2026-03-08T20:00');
    expect(dueOf({ projectId: 1 })).toBe('2026-03-09T03:00');
    expect(dueOf({ projectId: 2 })).toBe('2026-03-08T20:00');
  });

  it('without an owner is the project’s, else the workspace’s', () => {
    expect(dueOf({ projectId: 2, ownerId: null })).toBe('2026-03-09T03:00');
    expect(dueOf({ ownerId: null })).toBe('2026-03-09T00:00');
  });

  it('by close of business is that of whoever supplied the zone; a closed day ends at midnight', () => {
    // Sunday works in Muscat, is closed in Halifax, and in a project with a place but no calendar goes by the workspace's week.
    expect(dueOf({}, 'close')).toBe('2026-03-08T13:00');
    expect(dueOf({ projectId: 1 }, 'close')).toBe('2026-03-09T03:00');
    const monday = { day: parseDay('2026-03-09'), minute: null, zone: null };
    expect(dueOf({ projectId: 3, due: monday }, 'close')).toBe('2026-03-09T20:00');
  });

  it('of a date-time is itself, on its own wall', () => {
    const due = { day: parseDay('2026-03-08'), minute: 600, zone: LISBON.zone };
    expect(dueOf({ due, projectId: 1 })).toBe('2026-03-08T10:00');
  });
});

describe('why a date is over', () => {
  const why = (patch: Partial<TaskFacts>) => explainDue(new Planner(facts()), task(patch)).map(whyText);

  it('names whose day it is', () => {
    expect(why({})).toEqual([
      'The due date is Sunday 8 March 2026.',
      'The day is that of its owner, in Muscat.',
      'A due date ends with its day: Monday 9 March 2026 at 00:00 in Muscat.'
    ]);
    expect(why({ projectId: 1 })[1]).toBe('The day is that of the place of its project’s dates, in Halifax.');
    expect(why({ projectId: 2, ownerId: null })[1]).toBe('The day is that of its project, in Halifax.');
    expect(why({ ownerId: null })[1]).toBe('The day is that of the workspace, in Lisbon.');
    expect(why({ due: null })).toEqual([]);
    expect(why({ due: { day: parseDay('2026-03-08'), minute: 600, zone: LISBON.zone } })).toEqual([
      'It is due on Sunday 8 March 2026 at 10:00 in Lisbon.'
    ]);
  });
});

describe('a lead', () => {
  const rings = (
    lead: Partial<OffsetLead>,
    patch: Partial<TaskFacts> = {},
    to: 'owner' | 'manager' = 'owner'
  ) => {
    const planner = new Planner(facts());
    const rule = ruleOf(lead, to);
    return iso(
      planner.ring(
        rule.leads[0]!,
        task(patch),
        planner.audience.recipients(rule, rule.program.leading[0]!, task(patch))[0]!
      ).instant
    );
  };

  it('goes by the clock of the recipient, the owner, the project, the workspace or a place', () => {
    const at9 = (zone: OffsetLead['zone'], patch: Partial<TaskFacts> = {}) =>
      rings({ n: 0, zone }, patch, 'manager');
    expect(at9({ of: 'recipient' })).toBe('2026-03-08T12:00');
    expect(at9({ of: 'owner' })).toBe('2026-03-08T05:00');
    expect(at9({ of: 'project' }, { projectId: 2 })).toBe('2026-03-08T12:00');
    expect(at9({ of: 'project' })).toBe('2026-03-08T09:00');
    expect(at9({ of: 'workspace' })).toBe('2026-03-08T09:00');
    expect(at9({ of: 'named', zone: 'Asia/Tokyo' })).toBe('2026-03-08T00:00');
  });

  it('counts working days by the owner, whoever is told', () => {
    // One working day before Sunday is Thursday in Muscat, though the manager in Halifax works on Friday.
    expect(rings({ n: -1, unit: 'workday' })).toBe('2026-03-05T05:00');
    expect(rings({ n: -1, unit: 'workday' }, {}, 'manager')).toBe('2026-03-05T13:00');
    expect(rings({ n: -1, unit: 'workday', zone: { of: 'workspace' } }, { ownerId: 2 })).toBe(
      '2026-03-06T09:00'
    );
  });

  it('says nothing without its date, and nobody is told without an owner or a manager', () => {
    const planner = new Planner(facts());
    const owner = ruleOf({ anchor: 'start' });
    expect(planner.ring(owner.leads[0]!, task(), person(1, MUSCAT)).instant).toBeNaN();
    expect(planner.audience.everybody(owner, task({ ownerId: null }))).toEqual([]);
    expect(planner.audience.everybody(ruleOf({}, 'manager'), task({ ownerId: 2 }))).toEqual([]);
  });

  it('has the due moment as its use-by before and on the day, and 24 hours after it', () => {
    const planner = new Planner(facts());
    const ringAt = Date.parse('2026-03-07T05:00Z');
    const useBy = (n: number) => iso(planner.useBy(ruleOf({ n }).leads[0]!, task(), ringAt));
    expect([useBy(-1), useBy(0), useBy(1)]).toEqual([
      '2026-03-08T20:00',
      '2026-03-08T20:00',
      '2026-03-08T05:00'
    ]);
  });

  it('gives the same whatever was asked before', () => {
    const planner = new Planner(facts());
    const { leads } = ruleOf({ n: 0, zone: { of: 'owner' } });
    const ask = (one: TaskFacts) => iso(planner.ring(leads[0]!, one, person(2, HALIFAX)).instant);
    const tasks = [
      task(),
      task({ ownerId: 2 }),
      task({ ownerId: null, projectId: 1 }),
      task({ ownerId: null })
    ];
    const alone = tasks.map((one) =>
      iso(new Planner(facts()).ring(leads[0]!, one, person(2, HALIFAX)).instant)
    );
    expect([...tasks, ...tasks].map(ask)).toEqual([...alone, ...alone]);
  });
});
