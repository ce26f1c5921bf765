import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { seedDemo } from '../../demo/seed.ts';
import { blankDefinition, openWatch, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell, type Recipient, type Step, type Tell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead, type Lead } from '../../src/lib/core/rule/lead-model.ts';
import { sentenceText, wholeSentence } from '../../src/lib/core/rule/words/sentence.ts';
import { createContainer, type Container } from '../../src/lib/server/container.ts';
import { recordNames } from '../../src/lib/server/engine/names.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { drawn } from '../support/drawn.ts';
import { StillClock } from '../support/workspace.ts';

/**
 * On the workspace of the demo, two rules of which one has been changed at one place: if their forecasts differ, so do their whole sentences.
 * What decides who hears what and when is nowhere unsaid.
 */
const MOMENT = Date.parse('2026-03-05T07:40:00Z');
let demo: Container;
beforeAll(async () => {
  demo = createContainer({
    ...{ dataDir: ':memory:', demo: true, startAtMs: MOMENT, origin: 'http://early-bell.test' },
    ...{
      mail: { host: '127.0.0.1', port: 9 },
      machine: new StillClock(),
      chance: () => 0.5,
      logLevel: 'silent'
    }
  });
  await seedDemo(demo, MOMENT);
  demo.clock.set(demo.clock.now(), false);
}, 120_000);
afterAll(() => demo.stop());

const step = (id: string) => ({ id, name: '', description: '', leads: null });
const anyRecipient = fc.constantFrom<Recipient>(
  { who: 'owner' },
  { who: 'manager', up: 1 },
  { who: 'manager', up: 2 },
  { who: 'above', up: 1 },
  { who: 'coordinator' },
  { who: 'creator' },
  { who: 'owner', leads: ['0'] },
  { who: 'manager', up: 1, leads: ['1'] }
);
const anyTell = fc
  .record({
    id: fc.constantFrom('t1', 't2'),
    leads: fc.constantFrom<Tell['leads'][]>(null, null, ['0'], ['1']),
    to: fc.uniqueArray(anyRecipient, { minLength: 1, maxLength: 3, selector: (one) => JSON.stringify(one) }),
    channels: fc.constantFrom<Tell['channels'][]>(null, ['mail'], ['text'], ['in-app']),
    reach: fc.constantFrom('working hours' as const, 'outside quiet hours' as const, 'any time' as const),
    away: fc.constantFrom('stand-in' as const, 'pass' as const, 'wait' as const),
    gather: fc.constantFrom('per task' as const, 'per recipient' as const, 'together' as const),
    force: fc.constantFrom(null, 'urgent' as const, 'must' as const),
    fold: fc.boolean(),
    noticeKind: fc.constantFrom(null, 'reminder' as const, 'overdue' as const),
    subject: fc.constantFrom('‹task›', 'Look at ‹task›')
  })
  .map((one): Tell => ({ ...blankTell(), ...one }));
const anyOtherStep = fc.oneof(
  fc
    .record({
      n: fc.integer({ min: 1, max: 3 }),
      unit: fc.constantFrom('day' as const, 'workday' as const, 'hour' as const),
      closedDay: fc.constantFrom('as-is' as const, 'later' as const, 'earlier' as const),
      regardless: fc.boolean()
    })
    .map((one): Step => ({
      ...step('wait'),
      kind: 'wait',
      time: one.unit === 'hour' ? null : '10:00',
      ...one
    })),
  fc.constantFrom<Step>(
    { ...step('do'), kind: 'do', acts: [{ act: 'set priority', priority: 'pressing' }], ask: null },
    { ...step('do'), kind: 'do', acts: [{ act: 'unassign' }], ask: null },
    {
      ...{ ...step('do'), kind: 'do', acts: [{ act: 'archive' }] },
      ask: { question: 'Archive it?', workingDays: 1, otherwise: 'yes' }
    }
  ),
  fc
    .tuple(fc.constantFrom('high', 'pressing'), anyTell, fc.boolean())
    .map(([value, tell, otherwise]): Step => ({
      ...{ ...step('branch'), kind: 'branch' },
      sides: [
        { name: '', condition: { field: 'priority', op: 'is', value }, steps: [{ ...tell, id: 'in' }] }
      ],
      otherwise: otherwise ? [{ ...tell, id: 'else' }] : []
    }))
);
const anySteps = fc
  .tuple(anyTell, fc.option(anyOtherStep), anyTell)
  .map(([first, between, last]): Step[] => [
    { ...first, id: 't1' },
    ...(between ? [between, { ...last, id: 't2' }] : [])
  ]);

const anyLead = fc.oneof(
  fc
    .record({
      n: fc.integer({ min: -5, max: 5 }),
      unit: fc.constantFrom('day' as const, 'workday' as const, 'week' as const),
      anchor: fc.constantFrom('due' as const, 'start' as const, 'remind on' as const, 'ladder' as const),
      closedDay: fc.constantFrom(
        'as-is' as const,
        'earlier' as const,
        'later' as const,
        'nearest' as const,
        'skip' as const
      ),
      time: fc.constantFrom('08:00', '16:00'),
      zone: fc.constantFrom<Lead['zone']>(
        { of: 'recipient' },
        { of: 'owner' },
        { of: 'workspace' },
        { of: 'named', zone: 'Asia/Tokyo' }
      ),
      repeat: fc.constantFrom(
        null,
        null,
        { n: 1, unit: 'workday' as const, most: 3 },
        { n: 2, unit: 'day' as const, most: 2 }
      ),
      only: fc.constantFrom<Lead['only'][]>(null, null, { priorities: ['high'], tags: [], groups: [] })
    })
    .map(({ n, unit, anchor, ...rest }): Lead =>
      anchor === 'ladder'
        ? offsetLead('', Math.abs(n), unit === 'week' ? 'workday' : unit, { anchor, time: null })
        : offsetLead('', n, unit, { anchor, ...rest })
    ),
  fc
    .record({
      rrule: fc.constantFrom('FREQ=WEEKLY;BYDAY=MO', 'FREQ=DAILY', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'),
      time: fc.constantFrom('09:00', '18:00'),
      closedDay: fc.constantFrom('as-is' as const, 'skip' as const, 'later' as const),
      zone: fc.constantFrom<Lead['zone']>({ of: 'owner' }, { of: 'workspace' }, { of: 'project' }),
      oncePerDate: fc.boolean()
    })
    .map((one): Lead => ({
      ...{ kind: 'schedule', id: '', on: true, only: null, start: '2026-03-02' },
      ...one
    }))
);
const anyWatch = fc
  .record({
    projects: fc.constantFrom<RuleDefinition['watch']['projects'][]>(null, null, [1], [2, 3]),
    phases: fc.constantFrom<RuleDefinition['watch']['phases'][]>(null, ['under way'], ['finished', 'closed']),
    priorities: fc.constantFrom<RuleDefinition['watch']['priorities'][]>(
      ['low', 'ordinary', 'high', 'pressing'],
      ['high', 'pressing'],
      ['ordinary']
    ),
    seen: fc.constantFrom<RuleDefinition['watch']['seen'][]>([], [], ['parked']),
    condition: fc.constantFrom<RuleDefinition['watch']['condition'][]>(
      null,
      { field: 'due', op: 'within the next working days', value: 3 },
      { field: 'due', op: 'within the next working days', value: 9 },
      { none: [{ field: 'priority', op: 'is', value: 'low' }] }
    )
  })
  .map((one) => ({ ...openWatch(), ...one }));

/** Each place of a rule, drawn by itself: what one place becomes is drawn again for the second rule. */
const PLACES = {
  watch: anyWatch,
  leads: fc
    .array(anyLead, { minLength: 1, maxLength: 2 })
    .map((leads) => leads.map((lead, i) => ({ ...lead, id: `${i}` }))),
  steps: anySteps,
  ifLate: fc.constantFrom('keep' as const, 'ring-anyway' as const, 'forward' as const, 'skip' as const),
  firstRun: fc.constantFrom(null, '2026-03-16T09:00'),
  inOrder: fc.boolean(),
  awayStops: fc.boolean(),
  stop: fc
    .record({
      condition: fc.constantFrom<RuleDefinition['stop']['condition'][]>(null, {
        ...{ field: 'priority', op: 'is', value: 'pressing' }
      }),
      afterNotices: fc.constantFrom(null, 1, 2),
      until: fc.constantFrom(null, '2026-03-12'),
      acknowledged: fc.constantFrom('nothing' as const, 'overdue' as const, 'everything' as const),
      stuck: fc.constantFrom('nothing' as const, 'overdue' as const, 'everything' as const)
    })
    .map(({ acknowledged, stuck, ...rest }) => ({ ...rest, quiet: { acknowledged, stuck } })),
  past: fc.record({
    turnedOn: fc.constantFrom('do not ring' as const, 'latest at the next opening' as const),
    cameTrue: fc.constantFrom('that day' as const, 'until use-by' as const, 'do not ring' as const),
    newRecipient: fc.constantFrom('once' as const, 'do not ring' as const),
    created: fc.constantFrom('latest' as const, 'at once' as const, 'do not ring' as const),
    moved: fc.constantFrom('latest' as const, 'do not ring' as const),
    down: fc.constantFrom('leave' as const, 'fold' as const, 'do not ring' as const)
  })
} satisfies { [K in keyof RuleDefinition]: fc.Arbitrary<RuleDefinition[K]> };
type Place = keyof typeof PLACES;
const anyChange = fc
  .constantFrom(...(Object.keys(PLACES) as Place[]))
  .chain((place) => PLACES[place].map((value) => ({ [place]: value })));
/** One choice of one Tell alone, which is what differs least. */
const anyTellChange = anyTell.chain((other) =>
  fc
    .constantFrom(
      'leads',
      'to',
      'channels',
      'reach',
      'away',
      'gather',
      'force',
      'fold',
      'noticeKind',
      'subject'
    )
    .map(
      (key) => (steps: readonly Step[]) =>
        steps.map((one, i) => (i === 0 ? { ...one, [key]: other[key as keyof Tell] } : one))
    )
);

it('says everything that makes a forecast another', () => {
  const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };
  const names = recordNames(demo.stores);
  const said = (definition: RuleDefinition) => sentenceText(wholeSentence(definition, names));
  const foretold = (definition: RuleDefinition) => {
    const input = { name: 'Drawn', description: '', definition };
    const { counts, bells, acts, bySteps, next, watched } = demo.outlooks.ofRule(0, input, viewer, 14);
    // A ring time in words is what the sentence says.
    const told = bells.map(({ lead: _, ...bell }) => bell);
    return JSON.stringify({ counts, told, acts, bySteps, next, watched });
  };
  let differ = 0;
  fc.assert(
    fc.property(fc.record(PLACES), fc.oneof(anyChange, anyTellChange), (one, change) => {
      const before: RuleDefinition = { ...blankDefinition(), ...one };
      const after =
        typeof change === 'function' ? { ...before, steps: change(before.steps) } : { ...before, ...change };
      if (foretold(before) === foretold(after)) return;
      differ++;
      expect(said(after)).not.toBe(said(before));
    }),
    drawn(80)
  );
  // The property would hold of rules that never do anything: many of those drawn do.
  expect(differ).toBeGreaterThan(15);
});
