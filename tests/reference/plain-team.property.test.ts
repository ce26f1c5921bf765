import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Tell } from '../../src/lib/core/rule/step-model.ts';
import type { Lead, OffsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { CodedError } from '../../src/lib/core/errors.ts';
import { formatDay } from '../../src/lib/core/time/day.ts';
import {
  lead,
  MANAGER,
  openWorkspace,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';
import type { Level } from './plain-ladder.ts';
import type { Person } from './plain-people.ts';
import type { Act } from './plain-acts.ts';
import { PlainTeam } from './plain-team.ts';
import { drawn } from '../support/drawn.ts';

/**
 * A ladder, a schedule and an event over one task that people edit, give to another, hush, acknowledge and re-date: what left is what a walk
 * minute by minute says (plain-team.ts). Thirty are tried; `RUNS=500` tries so many.
 */

const WEEK = [1, 2, 3, 4, 5];
const PEOPLE: readonly Person[] = [
  { name: 'Ines', offset: 0, weekdays: WEEK, open: 540, close: 1020, manager: null },
  { name: 'Salim', offset: 240, weekdays: [0, 1, 2, 3, 4], open: 480, close: 960, manager: 'Ines' },
  { name: 'Meera', offset: 330, weekdays: [...WEEK, 6], open: 540, close: 1080, manager: 'Salim' },
  { name: 'Tess', offset: 660, weekdays: WEEK, open: 540, close: 1020, manager: 'Ines' }
];
const NAMES = PEOPLE.map(({ name }) => name);
const BEGIN = Date.parse('2026-03-05T07:00Z') / 60_000;
const END = '2026-03-24T00:00Z';
const TODAY = Math.floor(BEGIN / 1440);
const STUCK = 4;
const UNDER_WAY = 2;

const LEVELS: readonly Level[] = [
  { before: 2 },
  { before: 1 },
  { hours: 0 },
  { hours: 4 },
  { days: 2, most: 3 }
];
const OWNERS: Lead['zone'] = { of: 'owner' };
const rung = (id: string, n: number, unit: OffsetLead['unit'], patch: Partial<OffsetLead> = {}): Lead => ({
  ...lead(n, unit, { anchor: 'ladder', zone: OWNERS, closedDay: 'as-is', ...patch }),
  id
});

function definitions(oncePerDate: boolean): Record<'ladder' | 'schedule' | 'event', RuleDefinition> {
  const tell = (patch: Partial<Tell>): Partial<Tell> => ({
    reach: 'working hours',
    gather: 'per task',
    ...patch
  });
  const both = tell({ to: [{ who: 'owner' }, MANAGER] });
  const ladder = ruleOf(
    [
      rung('two before', -2, 'day', { time: '09:00' }),
      rung('one before', -1, 'day', { time: '09:00' }),
      rung('late', 0, 'workhour'),
      rung('half a day', 4, 'workhour'),
      rung('days', 2, 'day', { time: '10:00', closedDay: 'later', repeat: { n: 1, unit: 'day', most: 3 } })
    ],
    tell({ to: [{ who: 'owner' }] })
  );
  const [first] = ladder.steps as Tell[];
  const above: Tell = {
    ...first!,
    id: 'above',
    to: [{ who: 'above', up: 1 }],
    leads: ['half a day', 'days']
  };
  const schedule: Lead = {
    ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'workspace' } },
    ...{ rrule: 'FREQ=DAILY', start: '2026-01-02', time: '08:00', closedDay: 'as-is', oncePerDate }
  };
  const event: Lead = {
    ...{ kind: 'event', id: 'commented', on: true, only: null, zone: OWNERS, event: 'commented', wide: false }
  };
  return {
    ladder: { ...ladder, steps: [first!, above], inOrder: false },
    schedule: { ...ruleOf([schedule], { ...both, noticeKind: 'reminder' }), inOrder: false },
    event: { ...ruleOf([event], { ...both, noticeKind: 'assigned' }), inOrder: false }
  };
}

const person = fc.constantFrom(...NAMES);
const days = fc.integer({ min: 0, max: 2 });
/** What is said and hushed runs until the end of a day, which whoever does it works out. */
type Wish =
  | Exclude<Act, { act: 'acknowledge' | 'hush' | 'due' }>
  | { act: 'acknowledge'; on: number | null }
  | { act: 'hush'; of: 'task' | 'ladder' | 'schedule' | 'event' | 'person'; who: string; on: number }
  | { act: 'due'; in: number };
const wish: fc.Arbitrary<Wish> = fc.oneof(
  { weight: 2, arbitrary: fc.constant({ act: 'comment' as const }) },
  { weight: 1, arbitrary: fc.constant({ act: 'priority' as const }) },
  { weight: 3, arbitrary: person.map((to) => ({ act: 'owner' as const, to })) },
  {
    weight: 2,
    arbitrary: fc.integer({ min: -1, max: 5 }).map((ahead) => ({ act: 'due' as const, in: ahead }))
  },
  { weight: 3, arbitrary: fc.boolean().map((is) => ({ act: 'stuck' as const, is })) },
  { weight: 2, arbitrary: fc.option(days).map((on) => ({ act: 'acknowledge' as const, on })) },
  {
    weight: 3,
    arbitrary: fc
      .record({ of: fc.constantFrom('task', 'ladder', 'schedule', 'event', 'person'), who: person, on: days })
      .map((hush) => ({ act: 'hush' as const, ...hush }))
  },
  {
    weight: 1,
    arbitrary: fc
      .record({ who: person, wants: fc.boolean() })
      .map((one) => ({ act: 'no reminder' as const, ...one }))
  }
);
/** Minutes between two acts: the same minute, odd ones, and those that lead to openings, closings and rings. */
const gap = fc.constantFrom(0, 0, 1, 17, 30, 60, 60, 90, 210, 240, 480, 900, 1440);
interface Story {
  owner: string;
  dueIn: number;
  oncePerDate: boolean;
  acts: [number, Wish][];
}

const story: fc.Arbitrary<Story> = fc.record({
  owner: person,
  dueIn: fc.integer({ min: 0, max: 5 }),
  oncePerDate: fc.boolean(),
  acts: fc.array(fc.tuple(gap, wish), { minLength: 2, maxLength: 14 })
});

/** Both go through one story. @returns what left, as the engine and as the walk have it */
async function through(one: Story) {
  const workspace = await openWorkspace(new Date(BEGIN * 60_000).toISOString());
  try {
    return await lived(workspace, one);
  } finally {
    await workspace.close();
  }
}

async function lived(workspace: TestWorkspace, { owner, dueIn, oncePerDate, acts }: Story) {
  const { container, coordinator, people } = workspace;
  container.digests.turn(coordinator, 1, 'off');
  container.committer.commit(coordinator, 'Salim leads Meera', (writer) => {
    writer.update('person', people.Meera!, { manager_id: people.Salim! });
    writer.insert('status', { name: 'Waits', phase: 'stuck on others', position: 3 });
  });
  const ruleIds = Object.entries(definitions(oncePerDate)).map(
    ([name, definition]) => [name, ruleOn(workspace, definition, name)] as const
  );
  const due = TODAY + dueIn;
  const id = container.tasks.add(
    coordinator,
    taskInput({ ownerId: people[owner]!, dueDate: formatDay(due) })
  ).result;
  const walk = new PlainTeam(PEOPLE, LEVELS, { owner, due, now: BEGIN, coordinator: 'Ines', oncePerDate });
  await container.engine.tick();
  walk.begin();
  let now = BEGIN;
  for (const [minutes, one] of acts) {
    now += minutes;
    if (minutes > 0) await container.engine.moveClock(now * 60_000);
    walk.goTo(now);
    const act = doIt(workspace, id, Object.fromEntries(ruleIds), walk, one);
    if (!act) continue;
    await container.engine.tick();
    walk.do(act);
  }
  await container.engine.moveClock(Date.parse(END));
  walk.goTo(Date.parse(END) / 60_000);
  const nameOf = new Map(Object.entries(people).map(([name, personId]) => [personId, name]));
  const ruleOfId = new Map(ruleIds.map(([name, ruleId]) => [ruleId, name]));
  const left = container.stores.notices
    .ofTask(id)
    .filter(({ state }) => state === 'sent')
    .map(
      ({ leavesAt, ruleId, recipientId }) =>
        `${new Date(leavesAt!).toISOString().slice(5, 16)} ${ruleOfId.get(ruleId)} ${nameOf.get(recipientId)}`
    );
  return { engine: [...new Set(left)].sort(), walk: walk.left };
}

/** Does what is wished, and says it in the words of the walk; null where the workspace refuses it. */
function doIt(
  { container, coordinator, people }: TestWorkspace,
  id: number,
  ruleIds: Record<string, number>,
  walk: PlainTeam,
  wished: Wish
): Act | null {
  const edit = (patch: Parameters<typeof container.tasks.edit>[2]) =>
    container.tasks.edit(coordinator, id, patch);
  const today = TODAY + Math.floor((walk.now - TODAY * 1440) / 1440);
  switch (wished.act) {
    case 'comment':
      container.taskActs.comment(coordinator, id, 'A word');
      return wished;
    case 'priority':
      edit({ priority: container.stores.tasks.byId(id)!.priority === 'high' ? 'low' : 'high' });
      return wished;
    case 'owner':
      edit({ ownerId: people[wished.to]! });
      return wished;
    case 'due':
      edit({ dueDate: formatDay(today + wished.in) });
      return { act: 'due', day: today + wished.in };
    case 'stuck':
      edit({ statusId: wished.is ? STUCK : UNDER_WAY });
      return wished;
    case 'hush': {
      const { of, who, on } = wished;
      const what = { task: id, person: people[who]! }[of as 'task' | 'person'] ?? ruleIds[of]!;
      const kind = of === 'task' || of === 'person' ? of : 'rule';
      const { zone } = container.source.facts.workspace;
      container.quiet.hush(coordinator, { of: kind, id: what }, formatDay(today + on), zone);
      return { act: 'hush', of, who, until: (today + on + 1) * 1440 };
    }
    case 'no reminder':
      container.quiet.setReminded(coordinator, id, people[wished.who]!, wished.wants);
      return wished;
    case 'acknowledge': {
      const facts = container.source.facts.people.get(people[walk.owner]!)!;
      const day = walk.today;
      const promised = wished.on === null ? null : day + wished.on;
      const actor = { personId: facts.id, source: 'person' as const };
      try {
        const text = promised === null ? null : formatDay(promised);
        const { asked } = container.promises.acknowledge(
          actor,
          container.stores.tasks.byId(id)!,
          facts,
          text
        ).result;
        // What waits for a yes is refused when its day is over, and quietens nothing.
        return asked ? { act: 'priority' } : { act: 'acknowledge', until: walk.endOf(promised) };
      } catch (error) {
        if (error instanceof CodedError) return null;
        throw error;
      }
    }
  }
}

it('what leaves is what a walk minute by minute says, whatever people do to the task', async () => {
  await fc.assert(
    fc.asyncProperty(story, async (one) => {
      const { engine, walk } = await through(one);
      expect(engine).toEqual(walk);
    }),
    drawn(30)
  );
}, 1_800_000);
