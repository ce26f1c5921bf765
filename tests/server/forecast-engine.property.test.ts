import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Condition } from '../../src/lib/core/rule/condition.ts';
import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell, type Recipient, type Step } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead, type Lead } from '../../src/lib/core/rule/lead-model.ts';
import { MS_PER_DAY } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { drawn } from '../support/drawn.ts';
import { openWorkspace, received, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/**
 * With no acts in play, what a forecast says of the next 14 days is what the engine then does: notice by notice, by instant, recipient and
 * words, with leave, several owners, what is brought forward or told in order, and rules that cannot be computed. The words are taken from
 * what the mail stand-in received.
 */
const START = '2026-03-05T07:40:00Z';
const at = (iso: string) => Date.parse(iso);
const DAYS = 14;

const anyRecipients = fc.constantFrom<Recipient[]>(
  [{ who: 'owner' }],
  [{ who: 'manager', up: 1 }],
  [{ who: 'owner' }, { who: 'manager', up: 1, as: 'cc' }],
  [{ who: 'owner' }, { who: 'above', up: 1 }],
  [{ who: 'above', up: 2 }],
  [{ who: 'coordinator' }],
  [{ who: 'creator' }, { who: 'owner' }],
  [{ who: 'address', address: ' Harbour@Supplier.example' }]
);
const anyCondition = fc.constantFrom<(Condition | null)[]>(
  null,
  { field: 'due', op: 'within the next working days', value: 3 },
  {
    any: [
      { field: 'priority', op: 'is', value: 'pressing' },
      { field: 'days overdue', op: 'at least', value: 2 }
    ]
  },
  { none: [{ field: 'tag', op: 'is', value: 'quiet' }] },
  { field: 'rings so far', op: 'less than', value: 2 }
);
/** Null: the default of the ring time. */
const CLOSED_DAYS = [null, null, null, 'later', 'skip', 'as-is'] as const;
const anyLead = fc.oneof(
  fc
    .record({
      n: fc.integer({ min: -4, max: 4 }),
      unit: fc.constantFrom('day' as const, 'workday' as const, 'hour' as const),
      anchor: fc.constantFrom('due' as const, 'created' as const, 'start' as const),
      closedDay: fc.constantFrom(...CLOSED_DAYS),
      repeat: fc.constantFrom(
        null,
        null,
        { n: 1, unit: 'workday' as const, most: 3 },
        { n: 1, unit: 'day' as const, most: 2 },
        { n: 1, unit: 'day' as const, most: 4 },
        { n: 1, unit: 'week' as const, most: 2 }
      )
    })
    .map(({ n, unit, anchor, closedDay, repeat }) =>
      offsetLead('', anchor === 'created' ? Math.abs(n) : n, unit, {
        ...{ anchor, repeat },
        ...(closedDay === null || unit === 'hour' ? {} : { closedDay })
      })
    ),
  fc
    .record({
      n: fc.integer({ min: -2, max: 12 }),
      unit: fc.constantFrom('workhour' as const, 'workday' as const, 'day' as const)
    })
    .map(({ n, unit }) => offsetLead('', n, unit, { anchor: 'ladder' })),
  fc
    .record({
      of: fc.constantFrom('workspace' as const, 'owner' as const, 'recipient' as const, 'project' as const),
      when: fc.constantFrom(
        { rrule: 'FREQ=WEEKLY;BYDAY=MO,TH', time: '11:00' },
        { rrule: 'FREQ=DAILY', time: '18:00' },
        { rrule: 'FREQ=DAILY;INTERVAL=2', time: '01:30' }
      ),
      closedDay: fc.constantFrom('skip' as const, 'skip' as const, 'later' as const, 'as-is' as const),
      oncePerDate: fc.boolean()
    })
    .map(({ of, when, closedDay, oncePerDate }): Lead => ({
      ...{ kind: 'schedule', id: '', on: true, only: null, start: '2026-03-02' },
      ...{ zone: { of }, ...when, closedDay, oncePerDate }
    })),
  fc.constant<Lead>({
    ...{ kind: 'event', id: '', on: true, only: null, zone: { of: 'owner' } },
    ...{ event: 'became overdue', wide: false }
  })
);
const anyRule = fc
  .record({
    leads: fc.array(anyLead, { minLength: 1, maxLength: 3 }),
    to: anyRecipients,
    condition: anyCondition,
    gather: fc.constantFrom('per task' as const, 'per recipient' as const),
    reach: fc.constantFrom('working hours' as const, 'any time' as const),
    fold: fc.constantFrom(false, false, true),
    force: fc.constantFrom(null, null, 'urgent' as const),
    afterNotices: fc.constantFrom(null, null, 2),
    ifLate: fc.constantFrom(
      'keep' as const,
      'keep' as const,
      'forward' as const,
      'ring-anyway' as const,
      'skip' as const
    ),
    then: fc.constantFrom<('' | 'wait' | 'branch')[]>('', 'wait', 'branch')
  })
  .map(({ leads, to, condition, gather, reach, fold, force, afterNotices, ifLate, then }): RuleDefinition => {
    const outside = to.some(({ who }) => who === 'address');
    const tell = {
      ...blankTell('first'),
      to,
      reach,
      fold,
      force,
      gather: outside ? ('per task' as const) : gather,
      ...(outside ? { body: '‹task›: ‹due›' } : {})
    };
    const again = {
      ...blankTell('again'),
      to: [{ who: 'owner' as const }],
      subject: 'Again: ‹task› is ‹days left›'
    };
    const more: Step[] =
      then === 'wait'
        ? [
            {
              ...{ id: 'wait', kind: 'wait', name: '', description: '', leads: null, n: 2, unit: 'workday' },
              ...{ time: '09:00', closedDay: 'later', regardless: false }
            },
            again
          ]
        : then === 'branch'
          ? [
              {
                ...{ id: 'branch', kind: 'branch', name: '', description: '', leads: null },
                sides: [
                  {
                    name: 'pressing',
                    condition: { field: 'priority', op: 'is', value: 'pressing' },
                    steps: [again]
                  }
                ],
                otherwise: []
              }
            ]
          : [];
    const blank = blankDefinition();
    return {
      ...blank,
      watch: { ...blank.watch, condition },
      leads: leads.map((one, i) => ({ ...one, id: `lead-${i}` })),
      steps: [tell, ...more],
      stop: { ...blank.stop, afterNotices },
      ifLate
    };
  });
const anyTask = fc.record({
  owner: fc.constantFrom('Ines', 'Nora', 'Salim', 'Meera', 'Tess', null),
  others: fc.constantFrom<string[][]>([], [], [], ['Nora'], ['Tess', 'Salim']),
  due: fc.option(fc.integer({ min: -6, max: 18 })),
  time: fc.constantFrom(null, null, '14:30'),
  start: fc.option(fc.integer({ min: 0, max: 10 })),
  priority: fc.constantFrom('low' as const, 'ordinary' as const, 'pressing' as const),
  tags: fc.constantFrom<string[][]>([], [], ['quiet']),
  stuck: fc.constantFrom(false, false, false, true),
  /** Who has said, once the history is over, that they are on it, and for which day they promise it. */
  said: fc.option(
    fc.record({ by: fc.constantFrom('Ines', 'Salim', null), day: fc.option(fc.integer({ min: 1, max: 9 })) })
  )
});

/** Of whom or what, by its place in the list, and for how many days. */
const anyHush = fc.option(
  fc.record({
    of: fc.constantFrom('task' as const, 'person' as const, 'rule' as const),
    nth: fc.integer({ min: 0, max: 5 }),
    days: fc.integer({ min: 1, max: 9 })
  })
);

/** Who is on leave from which day on, for how long, and who stands in. */
const anyAway = fc.option(
  fc.record({
    who: fc.constantFrom('Ines', 'Nora', 'Salim', 'Tess'),
    from: fc.integer({ min: 1, max: 8 }),
    days: fc.integer({ min: 1, max: 5 }),
    standIn: fc.constantFrom(null, 'Meera', 'Nora')
  })
);
/** By whose calendar nothing can be counted, as a file of before may have left it. */
const anyNever = fc.constantFrom(null, null, null, 'Tess', 'Salim');

async function laidOut(
  rules: readonly RuleDefinition[],
  tasks: readonly {
    owner: string | null;
    others: string[];
    due: number | null;
    time: string | null;
    start: number | null;
    priority: 'low' | 'ordinary' | 'pressing';
    tags: string[];
    stuck: boolean;
    said: { by: string | null; day: number | null } | null;
  }[],
  cap: number | null,
  historyDays: number,
  hush: { of: 'task' | 'person' | 'rule'; nth: number; days: number } | null,
  away: { who: string; from: number; days: number; standIn: string | null } | null,
  never: string | null
): Promise<TestWorkspace> {
  const workspace = await openWorkspace(START);
  const { container, people, coordinator } = workspace;
  // The forecast tells of notices; in a digest they stand among other things.
  container.digests.turn(coordinator, 1, 'off');
  if (cap !== null)
    container.committer.commit(coordinator, 'cap', (writer) => {
      for (const id of Object.values(people))
        writer.update('person', id, { daily_cap: cap, digest_due: '08:00' });
    });
  const day = (n: number | null) =>
    n === null ? null : new Date(at(START) + n * MS_PER_DAY).toISOString().slice(0, 10);
  if (never !== null)
    container.committer.commit(coordinator, 'no working time', (writer) => {
      const calendar_id = writer.insert('calendar', { name: 'Never', week: '{}' });
      writer.update('person', people[never]!, { calendar_id });
    });
  if (away !== null)
    container.people.addLeave(coordinator, people[away.who]!, {
      ...{
        fromDate: day(away.from)!,
        fromTime: null,
        untilDate: day(away.from + away.days)!,
        untilTime: null
      },
      ...{
        standInId: away.standIn === null || away.standIn === away.who ? null : people[away.standIn]!,
        note: ''
      }
    });
  const waits = container.committer.commit(coordinator, 'a fourth status', (writer) =>
    writer.insert('status', { name: 'Waits', phase: 'stuck on others', position: 3 })
  ).result;
  const taskIds = tasks.map(({ owner, others, due, time, start, priority, tags, stuck }, i) => {
    const { result: id } = container.tasks.add(
      coordinator,
      taskInput({
        ...{ name: `Task ${i}`, priority, tags },
        ownerId: owner === null ? null : people[owner]!,
        dueDate: day(due),
        dueTime: due === null ? null : time,
        startDate: day(start)
      })
    );
    const otherOwnerIds = others.filter((name) => name !== owner).map((name) => people[name]!);
    if (owner !== null && otherOwnerIds.length > 0) container.tasks.edit(coordinator, id, { otherOwnerIds });
    if (stuck) container.tasks.edit(coordinator, id, { statusId: waits });
    return id;
  });
  const ruleIds = rules.map((definition, i) => ruleOn(workspace, definition, `Rule ${i}`));
  if (hush) {
    const ids = { task: taskIds, person: Object.values(people), rule: ruleIds }[hush.of];
    const of = { of: hush.of, id: ids[hush.nth % ids.length]! };
    container.quiet.hush(coordinator, of, day(hush.days)!, zoneNamed('Europe/Lisbon'));
  }
  await container.engine.moveClock(at(START) + historyDays * MS_PER_DAY);
  const { stores, source } = container;
  for (const [i, { owner, said }] of tasks.entries()) {
    const name = said?.by ?? owner;
    if (!said || name === null) continue;
    const person = source.facts.people.get(people[name]!)!;
    const promised = said.day === null ? null : day(historyDays + said.day);
    container.promises.acknowledge(
      { personId: person.id, source: 'person' },
      stores.tasks.byId(taskIds[i]!)!,
      person,
      promised
    );
  }
  await container.engine.tick();
  return workspace;
}

/** A delivery that a busy machine cut off waits for its next try, on a clock that stands still here: it is tried at once. */
async function deliverAll({ container }: TestWorkspace): Promise<void> {
  const { outbox, deliveries } = container.stores;
  for (let attempt = 0; attempt < 5 && outbox.unfinished() > 0; attempt++) {
    outbox.hurry(container.clock.machine.now());
    await container.outbox.drain();
  }
  expect(deliveries.failing(10)).toEqual([]);
}

describe('the forecast of 14 days', () => {
  it('is what the engine then does, notice by notice', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyRule, { minLength: 1, maxLength: 3 }),
        fc.array(anyTask, { minLength: 1, maxLength: 6 }),
        fc.constantFrom(null, null, 1, 2),
        fc.constantFrom(0, 3),
        anyHush,
        anyAway,
        anyNever,
        async (rules, tasks, cap, history, hush, away, never) => {
          const workspace = await laidOut(rules, tasks, cap, history, hush, away, never);
          try {
            const { container } = workspace;
            const from = container.clock.now();
            const until = from + DAYS * MS_PER_DAY;
            const before = (await received(workspace)).length;
            const foretold = container.forecasts.messages(from, until);
            await container.engine.moveClock(until);
            await deliverAll(workspace);
            // What a keeper hears of faults is no notice.
            const sent = (await received(workspace))
              .slice(before)
              .filter(({ subject }) => !subject.includes('cannot be computed'));
            const shown = (one: { date: number; to: string[]; subject: string }) =>
              `${new Date(one.date).toISOString()} ${one.to.join()} ${one.subject}`;
            expect(sent.map(shown).sort()).toEqual(foretold.map(shown).sort());
          } finally {
            await workspace.close();
          }
        }
      ),
      drawn(50)
    );
  }, 600_000);
});
