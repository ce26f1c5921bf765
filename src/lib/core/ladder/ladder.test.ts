import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { Leave, leaveSpans } from '../calendar/leave.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { compileRule, type RuleFacts } from '../forecast/facts/compile-rule.ts';
import {
  ORDINARY_FACTS,
  ORDINARY_TASK,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from '../forecast/facts/facts.ts';
import { Planner } from '../forecast/plan/planner.ts';
import type { Unit } from '../ring/lead.ts';
import { whyText } from '../ring/why-text.ts';
import type { WhyStep } from '../ring/why.ts';
import { blankDefinition, type RuleDefinition } from '../rule/model.ts';
import { blankTell } from '../rule/step-model.ts';
import { offsetLead, type OffsetLead } from '../rule/lead-model.ts';
import { NO_DETAILS, type TaskDetails } from '../task/details.ts';
import { parseDay } from '../time/day.ts';
import { acknowledgedPauses, joined } from './pauses.ts';
import { HALIFAX, LISBON, MUSCAT, halifax, lisbon, muscat, person } from './people.fixture.ts';

const utc = (text: string) => Date.parse(`${text}:00Z`);
const iso = (at: number) => (Number.isNaN(at) ? 'never' : new Date(at).toISOString().slice(0, 16) + 'Z');

interface World {
  owner?: Partial<PersonFacts>;
  details?: Partial<TaskDetails>;
  hushes?: Facts['hushes'];
}

function plannerOf({ owner = {}, details = {}, hushes = null }: World): Planner {
  const people = [person(1, { managerId: 2, ...owner }), person(2, { zone: MUSCAT, calendar: muscat })];
  return new Planner({
    ...ORDINARY_FACTS,
    workspace: { zone: LISBON, calendar: lisbon, noticeMinute: 540, endOfDay: 'midnight' },
    people: new Map(people.map((one) => [one.id, one])),
    projects: new Map(),
    hushes,
    detailsOf: () => ({ ...NO_DETAILS, ...details })
  });
}

const task = (due: string, patch: Partial<TaskFacts> = {}): TaskFacts => ({
  ...ORDINARY_TASK,
  ...{ id: 1, name: 'Book berth', projectId: null, ownerId: 1, start: null, phase: 'under way' },
  ...{ priority: 'ordinary', round: 0, private: false },
  due: { day: parseDay(due), minute: null, zone: null },
  ...patch
});

const rung = (n: number, unit: Unit, patch: Partial<OffsetLead> = {}) =>
  offsetLead(`${n} ${unit}`, n, unit, { anchor: 'ladder', ...patch });

function ladder(leads: OffsetLead[], patch: Partial<RuleDefinition> = {}): RuleFacts {
  const steps = [{ ...blankTell(), to: [{ who: 'owner' as const }] }];
  return compileRule(1, 'Ladder', 0, { ...blankDefinition(), leads, steps, ...patch });
}

/** When each rung rings for its owner. */
function rings(world: World, rule: RuleFacts, of: TaskFacts, k = 0): string[] {
  const planner = plannerOf(world);
  const owner = planner.facts.people.get(1)!;
  return rule.leads.map((lead) => iso(planner.ring(lead, of, owner, null, k).instant));
}

const HOURS = [rung(0, 'workhour'), rung(8, 'workhour'), rung(16, 'workhour'), rung(24, 'workhour')];

describe('levels', () => {
  const at = (n: number, time: string, patch: Partial<OffsetLead> = {}) => rung(n, 'day', { time, ...patch });

  it('ring in order after an acknowledgement: the lowest that has not rung comes at the next opening', () => {
    // Due on Monday 2 March, acknowledged on Tuesday at 11:20 until the end of Wednesday.
    const said = {
      at: utc('2026-03-03T11:20'),
      until: utc('2026-03-05T00:00'),
      personId: 1,
      promised: false
    };
    const world = { details: { acknowledgements: [said] } };
    const rule = ladder([at(1, '16:30'), at(2, '10:00')]);
    expect(rings(world, rule, task('2026-03-02'))).toEqual(['2026-03-05T09:00Z', '2026-03-05T10:00Z']);
  });

  it('ring right after a lower one that they would come before', () => {
    const rule = ladder([rung(16, 'workhour'), at(1, '09:00')]);
    expect(rings({}, rule, task('2026-03-02'))).toEqual(['2026-03-04T17:00Z', '2026-03-04T17:00Z']);
    const why: WhyStep[] = [];
    const planner = plannerOf({});
    planner.ring(rule.leads[1]!, task('2026-03-02'), planner.facts.people.get(1)!, why);
    expect(whyText(why.at(-1)!)).toBe(
      'Level 2 would ring before level 1. It rings right after it: Wednesday 4 March 2026 at 17:00 in Lisbon.'
    );
  });

  it('in days are repeated from their date before the closed-day rule', () => {
    // Three days after Thursday the 5th is Sunday the 8th, told on Monday; every two days from the 8th are the 10th and the 12th.
    const rule = ladder([at(3, '09:00', { repeat: { n: 2, unit: 'day', most: 3 } })]);
    const told = [0, 1, 2].map((k) => rings({}, rule, task('2026-03-05'), k)[0]);
    expect(told).toEqual(['2026-03-09T09:00Z', '2026-03-10T09:00Z', '2026-03-12T09:00Z']);
  });
});

describe('the ladder over a weekend, as the design gives it', () => {
  const owner = { zone: HALIFAX, calendar: halifax };
  const rule = [rung(0, 'workhour'), rung(8, 'workhour'), rung(12, 'workhour')];
  const due = task('2026-03-06');

  it('rungs at 0, 8 and 12 working hours', () => {
    expect(rings({ owner }, ladder(rule), due)).toEqual([
      '2026-03-09T12:00Z',
      '2026-03-09T20:00Z',
      '2026-03-10T16:00Z'
    ]);
  });

  it('stands still on the owner’s leave where the rule says so, and not otherwise', () => {
    const leave = new Leave(leaveSpans([{ from: '2026-03-10', to: '2026-03-10' }], HALIFAX));
    const stopped = rings({ owner: { ...owner, leave } }, ladder(rule, { awayStops: true }), due);
    expect(stopped[2]).toBe('2026-03-11T16:00Z');
    expect(rings({ owner: { ...owner, leave } }, ladder(rule), due)[2]).toBe('2026-03-10T16:00Z');
  });

  it('the manager in Muscat hears of the third rung when their next day opens', () => {
    const planner = plannerOf({ owner });
    const facts = ladder(rule);
    const manager = planner.facts.people.get(2)!;
    const { instant } = planner.ring(facts.leads[2]!, due, manager);
    expect(iso(instant)).toBe('2026-03-10T16:00Z');
    expect(iso(planner.leaves(facts.program.leading[0]!, manager, instant).at)).toBe('2026-03-11T04:00Z');
  });
});

/**
 * Worked by hand. Lisbon, Monday to Friday 09:00 to 17:00. Due Fri 27 March 2026, which ends on Sat 28 March 00:00 (00:00Z). On Sun 29 March
 * the clocks go forward, so 09:00 is 08:00Z from Monday on. Fri 3 April is closed. Rungs at 0, 8, 16 and 24 working hours.
 */
describe('a ladder over a clock change, a holiday and a promise', () => {
  const due = task('2026-03-27');

  it('by the clock alone: Mon 09:00, Mon 17:00, Tue 17:00, Wed 17:00', () => {
    expect(rings({}, ladder(HOURS), due)).toEqual([
      '2026-03-30T08:00Z',
      '2026-03-30T16:00Z',
      '2026-03-31T16:00Z',
      '2026-04-01T16:00Z'
    ]);
  });

  // Promised on Tue 10:00 (9 hours are over) until Wed has ended. Nothing was done: on Thu 09:00 the third rung, which by the clock alone
  // would come on Thu 16:00, rings at the opening. The fourth goes by the clock: 9 hours on Thu 09:00, 17 on Thu 17:00, Friday is closed, 24
  // on Mon 16:00.
  const promise = {
    at: utc('2026-03-31T09:00'),
    until: utc('2026-04-01T23:00'),
    personId: 1,
    promised: true
  };
  it('a promise that is not kept: the next rung at the next opening, the one after it by the clock', () => {
    const details = { acknowledgements: [promise] };
    expect(rings({ details }, ladder(HOURS), due).slice(2)).toEqual([
      '2026-04-02T08:00Z',
      '2026-04-06T15:00Z'
    ]);
  });

  it('a second promise in time is one longer pause', () => {
    const second = { ...promise, at: utc('2026-04-01T14:00'), until: utc('2026-04-06T23:00') };
    const details = { acknowledgements: [promise, second] };
    // Until Mon 6 April has ended; Tue 09:00 is the next opening. 9 hours are over then; 24 on Wed 16:00.
    expect(rings({ details }, ladder(HOURS), due).slice(2)).toEqual([
      '2026-04-07T08:00Z',
      '2026-04-08T15:00Z'
    ]);
  });

  it('waiting for others stops the clock, and goes on where it stood', () => {
    const stops = [
      { from: utc('2026-03-31T09:00'), until: utc('2026-04-02T11:00'), why: 'waits for others' as const }
    ];
    // 9 hours are over; from Thu 12:00 seven more: five on Thursday, two on Monday.
    expect(rings({ details: { stops } }, ladder(HOURS), due)[2]).toBe('2026-04-06T10:00Z');
    const open = [{ ...stops[0]!, until: Infinity }];
    expect(rings({ details: { stops: open } }, ladder(HOURS), due).slice(2)).toEqual(['never', 'never']);
  });

  it('a hush of the task, its project, its owner or the rule stops the clock', () => {
    const hush = { from: utc('2026-03-31T09:00'), until: utc('2026-04-02T11:00') };
    for (const [of, id] of [
      ['task', 1],
      ['person', 1],
      ['rule', 1]
    ] as const)
      expect(rings({ hushes: [{ of, id, ...hush }] }, ladder(HOURS), due)[2]).toBe('2026-04-06T10:00Z');
    const other = rings({ hushes: [{ of: 'task', id: 2, ...hush }] }, ladder(HOURS), due);
    expect(other[2]).toBe('2026-03-31T16:00Z');
  });

  it('in working days: days on which the clock runs at the rung’s time are counted', () => {
    const days = ladder([rung(1, 'workday'), rung(3, 'workday'), rung(5, 'workday')]);
    expect(rings({}, days, due)).toEqual(['2026-03-30T08:00Z', '2026-04-01T08:00Z', '2026-04-06T08:00Z']);
    // Mon, Tue, then Wed is in the promise; Thu is the third, Friday is closed, Mon the fourth, Tue the fifth.
    const details = { acknowledgements: [promise] };
    expect(rings({ details }, days, due).slice(1)).toEqual(['2026-04-02T08:00Z', '2026-04-07T08:00Z']);
  });

  it('begins again for a new owner, with a new date, and for what came in late', () => {
    // Wed 1 April 15:00: two hours on Wednesday, six on Thursday.
    const at = utc('2026-04-01T14:00');
    for (const details of [{ assignedAt: at }, { dueSince: at }, { createdAt: at }])
      expect(rings({ details }, ladder(HOURS), due).slice(0, 2)).toEqual([
        '2026-04-01T14:00Z',
        '2026-04-02T14:00Z'
      ]);
    const evening = { createdAt: utc('2026-03-31T17:30') };
    expect(rings({ details: evening }, ladder(HOURS), due)[0]).toBe('2026-04-01T08:00Z');
  });

  it('acknowledged within a leave that stops the clock too, it is acknowledged all the same', () => {
    const leave = new Leave(leaveSpans([{ from: '2026-03-31', to: '2026-04-03' }], LISBON));
    const planner = plannerOf({ owner: { leave }, details: { acknowledgements: [promise] } });
    const [first] = ladder(HOURS, { awayStops: true }).leads;
    const still = (at: string) => planner.ladders.stillAt(first!, due, utc(at))?.why ?? null;
    expect([still('2026-03-31T10:00'), still('2026-04-02T10:00')]).toEqual(['acknowledged', null]);
  });

  it('what the owner before had promised stops nothing for the new one', () => {
    const details = { acknowledgements: [promise], assignedAt: utc('2026-04-01T14:00') };
    expect(rings({ details }, ladder(HOURS), due)[1]).toBe('2026-04-02T14:00Z');
  });

  it('says why, step by step', () => {
    const planner = plannerOf({ details: { acknowledgements: [promise] } });
    const why: WhyStep[] = [];
    const rule = ladder(HOURS);
    planner.ring(rule.leads[2]!, due, planner.facts.people.get(1)!, why);
    planner.ring(rule.leads[3]!, due, planner.facts.people.get(1)!, why);
    expect(why.map(whyText)).toEqual([
      'The clock of the ladder starts at the due time: Saturday 28 March 2026 at 00:00 in Lisbon.',
      'The acknowledgement ended on Thursday 2 April 2026 at 00:00 in Lisbon. Level 3 is next and rings when working time starts, Thursday 2 April 2026 at 09:00 in Lisbon.',
      'The clock of the ladder starts at the due time: Saturday 28 March 2026 at 00:00 in Lisbon.',
      'The ladder is paused from Tuesday 31 March 2026 at 10:00 in Lisbon until Thursday 2 April 2026 at 00:00 in Lisbon: it was acknowledged.',
      'Level 4 rings after 24 working hours: Monday 6 April 2026 at 16:00 in Lisbon.'
    ]);
  });
});

describe('rungs', () => {
  const due = task('2026-03-27');

  it('before the due moment are counted back from it', () => {
    const rule = ladder([rung(-4, 'workhour'), rung(-2, 'workday')]);
    expect(rings({}, rule, due)).toEqual(['2026-03-27T13:00Z', '2026-03-25T09:00Z']);
  });

  it('are timed otherwise for some tasks, and stay the same rung', () => {
    const only = { priorities: ['pressing' as const], tags: [], groups: [] };
    const rule = ladder([
      rung(0, 'workhour'),
      rung(8, 'workhour', { instead: [{ only, n: 4, unit: 'workhour' }] })
    ]);
    const pressing = task('2026-03-27', { priority: 'pressing' });
    expect([rings({}, rule, due)[1], rings({}, rule, pressing)[1]]).toEqual([
      '2026-03-30T16:00Z',
      '2026-03-30T12:00Z'
    ]);
    const planner = plannerOf({});
    const [, second] = rule.leads;
    expect(planner.anchorValue(second!, pressing)).toBe(planner.anchorValue(second!, due));
  });

  it('the last may be repeated, on the same clock', () => {
    const rule = ladder([
      rung(0, 'workhour'),
      rung(8, 'workhour', { repeat: { n: 1, unit: 'workday', most: 3 } })
    ]);
    const at = [0, 1, 2].map((k) => rings({}, rule, due, k)[1]);
    expect(at).toEqual(['2026-03-30T16:00Z', '2026-03-31T16:00Z', '2026-04-01T16:00Z']);
    const stops = [
      { from: utc('2026-03-31T09:00'), until: utc('2026-04-02T11:00'), why: 'waits for others' as const }
    ];
    const later = [0, 1, 2].map((k) => rings({ details: { stops } }, rule, due, k)[1]);
    expect(later).toEqual(['2026-03-30T16:00Z', '2026-04-02T16:00Z', '2026-04-06T16:00Z']);
  });

  it('have a use-by: the next rung, and a day after the last', () => {
    const planner = plannerOf({});
    const rule = ladder(HOURS);
    const at = rule.leads.map((lead) => planner.ring(lead, due, null).instant);
    const useBy = rule.leads.map((lead, i) => iso(planner.useBy(lead, due, at[i]!)));
    expect(useBy).toEqual([
      '2026-03-30T16:00Z',
      '2026-03-31T16:00Z',
      '2026-04-01T16:00Z',
      '2026-04-02T16:00Z'
    ]);
  });

  it('a register is never late, and what has no date climbs nothing', () => {
    const planner = plannerOf({});
    const [first] = ladder(HOURS).leads;
    expect(planner.anchor(first!, task('2026-03-27', { register: true }))).toBeNull();
    expect(planner.anchor(first!, task('2026-03-27', { due: null }))).toBeNull();
  });

  it('an owner who never works is an error, not an endless search', () => {
    const calendar = new CompiledCalendar(parseCalendar({ week: {} }), LISBON);
    expect(() => rings({ owner: { calendar } }, ladder([rung(1, 'workday')]), due)).toThrow(/working/);
    expect(() => rings({ owner: { calendar } }, ladder([rung(1, 'workhour')]), due)).toThrow(/working/);
  });

  it('an owner on leave for ever: with the clock stopped no rung comes', () => {
    const leave = new Leave([[utc('2026-03-30T00:00'), Infinity]]);
    const rule = ladder([rung(0, 'workhour'), rung(1, 'workday')], { awayStops: true });
    expect(rings({ owner: { leave } }, rule, due)).toEqual(['never', 'never']);
  });
});

describe('pauses', () => {
  it('an acknowledgement lasts until its end or the next, and only the last runs out', () => {
    const said = [
      { at: 10, until: 100, personId: 1, promised: true },
      { at: 50, until: 80, personId: 1, promised: false },
      { at: 200, until: 300, personId: 1, promised: true }
    ];
    expect(acknowledgedPauses(said)).toEqual({
      pauses: [
        { from: 10, until: 50, why: 'acknowledged' },
        { from: 50, until: 80, why: 'acknowledged' },
        { from: 200, until: 300, why: 'acknowledged' }
      ],
      wakes: [80, 300]
    });
  });

  it('those that overlap are one, named by the one that ends last', () => {
    expect(
      joined([
        { from: 50, until: Infinity, why: 'hushed' },
        { from: 10, until: 60, why: 'away' },
        { from: 5, until: 5, why: 'finished' }
      ])
    ).toEqual([{ from: 10, until: Infinity, why: 'hushed' }]);
  });
});
