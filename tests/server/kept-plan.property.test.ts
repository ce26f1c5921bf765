import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Facts } from '../../src/lib/core/forecast/facts/facts.ts';
import { compileFacts } from '../../src/lib/core/forecast/facts/compile-facts.ts';
import { forecast } from '../../src/lib/core/forecast/forecast.ts';
import { NO_DETAILS } from '../../src/lib/core/task/details.ts';
import { CodedError } from '../../src/lib/core/errors.ts';
import { drawn } from '../support/drawn.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/**
 * The kept plan equals one that is made afresh, after whatever happens to a workspace: edits of dates, statuses and owners, holidays,
 * weeks, leave, zones, hush, undo, versions of the rule, renewals, and a clock that goes on and back.
 */

const HOUR_MS = 3_600_000;
const TASKS = 5;
const date = (day: number) => `2026-03-${String(day).padStart(2, '0')}`;
const day = fc.integer({ min: 1, max: 28 });

/** What one act needs to know of the workspace that it happens to. */
interface Scene {
  workspace: TestWorkspace;
  ids: number[];
  ruleId: number;
  /** The change made last, for whoever takes it back. */
  last: number | null;
}
type Act = (scene: Scene) => void | Promise<void>;

const input = taskInput({ dueDate: '2026-03-12' });
const definitions = [
  ruleOf([lead(-2, 'workday'), lead(-3, 'hour'), lead(1, 'day')]),
  ruleOf([lead(-1, 'workday', { time: '16:00' }), lead(1, 'day')]),
  ruleOf([lead(-1, 'week'), lead(-3, 'hour', { repeat: { n: 1, unit: 'workday', most: 3 } })]),
  {
    ...ruleOf(
      [
        lead(-1, 'workday', { anchor: 'ladder' }),
        lead(0, 'workhour', { anchor: 'ladder' }),
        lead(8, 'workhour', { anchor: 'ladder' }),
        lead(3, 'workday', { anchor: 'ladder', repeat: { n: 1, unit: 'workday', most: 3 } })
      ],
      { to: [{ who: 'owner' }, { who: 'above', up: 1 }] }
    ),
    awayStops: true
  }
];

const dated = (task: number, on: number): Act => {
  return (scene) => {
    const { container, coordinator, people } = scene.workspace;
    scene.last = container.tasks.edit(coordinator, scene.ids[task]!, {
      ...input,
      ownerId: people.Ines!,
      dueDate: date(on)
    }).changeId;
  };
};
const edited = (task: number, patch: (scene: Scene) => Partial<typeof input>): Act => {
  return (scene) => {
    const { container, coordinator } = scene.workspace;
    scene.last = container.tasks.edit(coordinator, scene.ids[task]!, patch(scene)).changeId;
  };
};
const zoned = (zone: string): Act => {
  return (scene) => {
    const { container, coordinator, people } = scene.workspace;
    scene.last = container.committer.commit(coordinator, 'zone', (writer) =>
      writer.update('person', people.Ines!, { zone })
    ).changeId;
  };
};
const closed = (on: number): Act => {
  return (scene) => {
    const { container, coordinator } = scene.workspace;
    if (container.stores.calendars.all()[0]!.days.some((one) => one.date === date(on))) return;
    scene.last = container.committer.commit(coordinator, 'closed', (writer) =>
      writer.insert('calendar_day', { calendar_id: 1, date: date(on), name: 'Closed' })
    ).changeId;
  };
};
const away = (on: number, standIn: boolean): Act => {
  return (scene) => {
    const { container, coordinator, people } = scene.workspace;
    const taken = container.stores.people.leaveOf(people.Ines!).map(({ from }) => Number(from.slice(8, 10)));
    if (taken.some((other) => Math.abs(other - on) <= 1)) return;
    container.people.addLeave(coordinator, people.Ines!, {
      ...{ fromDate: date(on), fromTime: '12:00', untilDate: date(on + 1), untilTime: null, note: '' },
      standInId: standIn ? people.Tess! : null
    });
    scene.last = null;
  };
};
const moved = (on: number): Act => {
  return ({ workspace: { container, coordinator, people } }) => {
    container.people.move(coordinator, people.Ines!, { from: date(on), zone: 'Asia/Kolkata' });
  };
};
const otherWeek = (on: number): Act => {
  return ({ workspace: { container, coordinator } }) => {
    const { id, ...calendar } = container.stores.calendars.all().find((one) => one.id === 1)!;
    const weeks = [{ from: date(on), week: { sun: ['08:00-12:00'], wed: ['08:00-12:00'] } }];
    container.calendars.save(coordinator, id, { ...calendar, weeks });
  };
};
const hushed = (task: number, days: number): Act => {
  return ({ workspace: { container, coordinator }, ids }) => {
    const { zone } = container.source.facts.workspace;
    const until = new Date(container.clock.now() + days * 24 * HOUR_MS).toISOString().slice(0, 10);
    container.quiet.hush(coordinator, { of: 'task', id: ids[task]! }, until, zone);
  };
};
const unhushed: Act = ({ workspace: { container, coordinator } }) => {
  const [first] = container.stores.hushes.endingAfter(container.clock.now());
  if (first) container.quiet.unhush(coordinator, first.hushId);
};
const acknowledged = (which: number, days: number | null): Act => {
  return ({ workspace: { container, coordinator, people }, ids }) => {
    const { promises, stores, clock, source } = container;
    const person = source.facts.people.get(people.Ines!)!;
    const promised =
      days === null ? null : new Date(clock.now() + days * 24 * HOUR_MS).toISOString().slice(0, 10);
    try {
      promises.acknowledge(coordinator, stores.tasks.byId(ids[which]!)!, person, promised);
    } catch (failure) {
      // What is finished, or promised twice already, is not promised.
      if (!(failure instanceof CodedError)) throw failure;
    }
  };
};
const taken: Act = (scene) => {
  const { container, people } = scene.workspace;
  if (scene.last === null) return;
  try {
    container.committer.undo(scene.last, people.Ines!);
  } catch (failure) {
    // What has been taken back is not taken back again.
    if (!(failure instanceof CodedError)) throw failure;
  }
  scene.last = null;
};
const otherVersion = (which: number): Act => {
  return ({ workspace: { container, coordinator }, ruleId }) => {
    const definition = definitions[which]!;
    container.rules.turnOn(coordinator, ruleId, { name: 'Plan', description: '', definition });
  };
};
const clockTo = (hours: number): Act => {
  return ({ workspace: { container } }) =>
    container.engine.moveClock(container.clock.now() + hours * HOUR_MS);
};

const task = fc.nat(TASKS - 1);
const anyAct: fc.Arbitrary<Act> = fc.oneof(
  fc.tuple(task, day).map(([which, on]) => dated(which, on)),
  fc
    .tuple(task, fc.integer({ min: 1, max: 4 }))
    .map(([which, statusId]) => edited(which, () => ({ statusId }))),
  fc
    .tuple(task, fc.constantFrom('Ines', 'Tess', 'Salim'))
    .map(([which, name]) => edited(which, ({ workspace }) => ({ ownerId: workspace.people[name]! }))),
  // Finished, it comes back a week on: a new round.
  task.map((which) =>
    edited(which, () => ({ rhythm: { n: 1, unit: 'week' }, renewFrom: 'due', statusId: 3 }))
  ),
  fc.constantFrom('Asia/Tokyo', 'Europe/Lisbon').map(zoned),
  day.map(closed),
  fc.tuple(fc.integer({ min: 1, max: 27 }), fc.boolean()).map(([on, standIn]) => away(on, standIn)),
  day.map(moved),
  day.map(otherWeek),
  fc.tuple(task, fc.integer({ min: 1, max: 20 })).map(([which, days]) => hushed(which, days)),
  fc.tuple(task, fc.option(fc.integer({ min: 0, max: 6 }))).map(([which, days]) => acknowledged(which, days)),
  fc.constant(unhushed),
  fc.constant(taken),
  fc.nat(definitions.length - 1).map(otherVersion),
  fc.integer({ min: -30, max: 60 }).map(clockTo)
);

it('is the fresh one, whatever has happened', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(anyAct, { minLength: 1, maxLength: 10 }), async (acts) => {
      const workspace = await openWorkspace('2026-03-05T07:40:00Z');
      const { tasks, engine, stores, source, clock, committer } = workspace.container;
      committer.commit(workspace.coordinator, 'a fourth status', (writer) =>
        writer.insert('status', { name: 'Waits', phase: 'stuck on others', position: 3 })
      );
      const ids = Array.from(
        { length: TASKS },
        () => tasks.add(workspace.coordinator, { ...input, ownerId: workspace.people.Ines! }).result
      );
      const scene: Scene = { workspace, ids, ruleId: ruleOn(workspace, definitions[0]!, 'Plan'), last: null };
      for (const act of acts) await act(scene);
      await engine.tick();
      const kept = stores.plan.all();
      stores.plan.enqueueAll();
      await engine.tick();
      expect(kept).toEqual(stores.plan.all());
      // What was compiled once and kept through all the edits answers as what is compiled now from the rows.
      const live = source.liveRules().map(({ facts }) => facts);
      const window = { now: clock.now(), from: clock.now(), until: clock.now() + 60 * 24 * HOUR_MS };
      const answer = (facts: Facts) => [...forecast(facts, live, stores.tasks.facts(), window).notices];
      const details = (id: number) => stores.taskDetails.of(id) ?? NO_DETAILS;
      expect(answer(source.facts)).toEqual(answer(compileFacts(source.input(), details)));
      await workspace.close();
    }),
    drawn(40)
  );
});
