import { beforeEach, describe, expect, it } from 'vitest';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';
import type { EffectView } from '../../src/lib/view/effects.ts';
import { lookAt } from '../../src/lib/server/tryout/looks.ts';
import type { BulkInput } from '../../src/lib/server/task/bulk-schema.ts';
import { lead, received, ruleOf, ruleOn, SEES_ALL } from '../support/workspace.ts';
import {
  add,
  eachInAWorkspace,
  edit,
  FINISHED,
  mail,
  moveTo,
  on,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** What an act would do is said before it is done, with whatever any rule makes of it. It is Thursday 5 March 2026, 07:00Z. */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const viewer = () => ({
  zone: workspace.container.source.facts.workspace.zone,
  personId: workspace.people.Ines!
});
const byHand: Lead = {
  ...{ kind: 'by hand', id: 'hand', on: true, only: null, zone: { of: 'workspace' } },
  ...{ caption: 'Wind up', places: ['list'] }
};
const finishes: Step = {
  ...{ ...step('finish'), kind: 'do', ask: null },
  acts: [{ act: 'set status', statusId: FINISHED }]
};
const whenFinished = { watch: { ...rule([], []).watch, phases: ['finished' as const] } };
/** Tells whoever owns it, at once, that it is finished. */
const finishedTells = () =>
  ruleOn(
    workspace,
    rule([on('finished')], [tell('tell', { reach: 'any time', subject: '‹task› is done' })], whenFinished),
    'Finished'
  );
const ofAct = (ids: number[], act: () => void) => workspace.container.effects.ofAct(ids, act, viewer());
const many = (count: number, ownerId = workspace.people.Ines!) =>
  Array.from({ length: count }, (_, i) => add({ name: `Task ${i}`, ownerId, dueDate: '2026-03-12' }));

describe('messages that leave at once', () => {
  it('by hand: those of a rule that only listens are counted and listed, and they are what leaves', async () => {
    finishedTells();
    const hand = ruleOn(workspace, rule([byHand], [finishes]), 'Wind up');
    const ids = many(19);
    await tick();
    const { handRings } = workspace.container;
    const { effect } = handRings.previewOver(workspace.coordinator, hand, ids, viewer());
    expect(effect.atOnce).toMatchObject({ messages: 19, people: 1, acts: 19 });
    expect(effect.atOnce!.listed[0]).toEqual({
      ...{ subject: 'Task 0 is done', to: ['Ines'], rules: ['Finished'], tasks: 1 }
    });
    expect(await received(workspace)).toEqual([]);
    handRings.ringOver(workspace.coordinator, hand, ids, { stamp: effect.stamp, viewer: viewer() });
    await tick();
    await workspace.container.outbox.drain();
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual(
      effect.atOnce!.listed.map(({ subject }) => subject)
    );
  });

  it('far more than were foreseen: the rule is named that will stop and ask', async () => {
    finishedTells();
    const ids = many(60);
    await tick();
    const finish = () => {
      for (const id of ids) edit(id, { statusId: FINISHED });
    };
    expect(ofAct(ids, finish).atOnce).toMatchObject({ stopped: [{ rule: 'Finished', messages: 60 }] });
  });

  it('what is due anyway is not said to be because of it', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], { subject: '‹task›', reach: 'any time' }));
    const [one, other] = [
      add({ name: 'One', dueDate: '2026-03-05' }),
      add({ name: 'Other', dueDate: '2026-03-09' })
    ];
    await tick();
    // The engine has not come to what is due now.
    workspace.container.clock.set(Date.parse('2026-03-05T09:00:00Z'), false);
    const said = ofAct([one, other], () => void edit(other, { priority: 'high' }));
    expect(said.atOnce!.messages).toBe(0);
    await tick();
    await workspace.container.outbox.drain();
    expect(await mail()).toEqual(['03-05T09:00 ines One']);
  });

  it('another person’s private task has no name in it', async () => {
    finishedTells();
    const id = add({ name: 'Secret', private: true });
    await tick();
    const finish = () => void edit(id, { statusId: FINISHED });
    const nora = { ...viewer(), personId: workspace.people.Nora! };
    const said = workspace.container.effects.ofAct([id], finish, nora);
    expect(said.atOnce!.listed.map(({ subject }) => subject)).toEqual(['about a private task']);
    expect(ofAct([id], finish).atOnce!.listed.map(({ subject }) => subject)).toEqual(['Secret is done']);
  });
});

describe('what ends and what comes', () => {
  it('parking names the question that is asked no more', async () => {
    const { container, coordinator } = workspace;
    const id = add({ name: 'Old', dueDate: '2026-05-01' });
    await moveTo('2026-03-26T10:00Z');
    const definition = { ...blankSweep('still needed'), wait: { n: 5, unit: 'workday' as const } };
    const sweep = container.sweeps.insert(coordinator, { name: 'Stale', description: '', definition }).result;
    const runId = container.sweeps.look(sweep);
    await tick();
    container.sweeps.run(coordinator, runId, true);
    await tick();
    const parked = ofAct([id], () => void container.taskActs.park(coordinator, id, '2026-04-20'));
    expect(parked.atOnce!.questions).toEqual(['Still needed? Old']);
  });

  it('a rule that is turned off: its planned notices end', async () => {
    const ruleId = ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')], { subject: '‹task›' }), 'Due');
    const ids = many(3);
    await tick();
    const { plan } = workspace.container.stores;
    expect(plan.tasksOfRule(ruleId)).toEqual(ids);
    const off = ofAct(ids, () => void workspace.container.rules.turnOff(workspace.coordinator, ruleId));
    expect(off.counts).toMatchObject({ gone: 6, added: 0, moved: 0 });
    expect(off.lines[0]).toMatchObject({ kind: 'gone', who: 'Ines', rule: 'Due', after: 'no bell' });
  });

  it('running the list of a sweep: what it writes to people and what rules make of it', async () => {
    const { container, coordinator, people } = workspace;
    const salim = { personId: people.Salim!, source: 'person' as const };
    const ids = many(2);
    // Friday is no working day of Salim's: by themselves they would come back on Sunday.
    for (const id of ids) container.taskActs.park(salim, id, '2026-03-06');
    await moveTo('2026-03-06T15:00:00Z');
    const definition = { ...blankSweep('bring back'), wait: { n: 0, unit: 'day' as const } };
    const sweep = container.sweeps.insert(coordinator, { name: 'Back', description: '', definition }).result;
    const runId = container.sweeps.look(sweep);
    await tick();
    const said = container.sweeps.effect(coordinator, runId, viewer());
    expect(said.atOnce!.listed).toEqual([
      { subject: '2 tasks are no longer parked', to: ['Salim'], rules: [], tasks: 0 }
    ]);
    expect(container.stores.sweepRuns.byId(runId)!.state).toBe('ready');
    container.sweeps.run(coordinator, runId, true);
    await tick();
    await container.outbox.drain();
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual(
      said.atOnce!.listed.map(({ subject }) => subject)
    );
    expect(container.stores.tasks.byId(ids[0]!)!.ownerId).toBe(people.Salim);
  });

  it('an import: what comes in late is told at once, and bells come', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '06:00' })], { subject: '‹task›', reach: 'any time' }));
    await tick();
    const { imports } = workspace.container;
    const csv = 'name,owner,due\nSoon,ines@test.example,2026-03-06\nLater,ines@test.example,2026-03-20\n';
    const bytes = async function* () {
      await Promise.resolve();
      yield new TextEncoder().encode(csv);
    };
    const token = await imports.upload(workspace.people.Ines!, 'two.csv', bytes());
    const said = await imports.effect(workspace.coordinator, token, viewer());
    expect(said.atOnce).toMatchObject({ messages: 1, listed: [{ subject: 'Soon', to: ['Ines'] }] });
    expect(said.counts).toMatchObject({ added: 1 });
    expect(workspace.container.stores.tasks.count()).toBe(0);
    expect((await imports.confirm(workspace.coordinator, token)).result).toEqual({ created: 2, updated: 0 });
    await tick();
    await workspace.container.outbox.drain();
    expect((await mail()).map((line) => line.split(' ').at(-1))).toEqual(['Soon']);
  });

  it('a project that is called off: what its tasks would have rung goes, and nobody else’s plan is touched', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')], { subject: '‹task›' }));
    const { container, coordinator, project } = workspace;
    const ids = [
      add({ projectId: project, dueDate: '2026-03-12' }),
      add({ projectId: project, dueDate: '2026-03-13' })
    ];
    add({ name: 'Elsewhere', dueDate: '2026-03-12' });
    await tick();
    const planned = container.stores.plan.all();
    const { id: _, ...was } = container.stores.projects.byId(project)!;
    const call = () =>
      void container.projects.edit(coordinator, project, { ...was, state: 'called off' } as never);
    expect(ofAct(ids, call).counts).toMatchObject({ gone: 2 });
    expect(container.stores.plan.all()).toEqual(planned);
    expect(container.stores.plan.isStale).toBe(false);
  });
});

describe('a preview that is stale when it is confirmed', () => {
  const input = (ids: number[]): BulkInput => ({ ids, query: '', change: { act: 'status', id: FINISHED } });
  const apply = (ids: number[], stamp: string | null) =>
    workspace.container.bulk.apply(workspace.coordinator, input(ids), viewer(), SEES_ALL, stamp);
  const look = (ids: number[]) =>
    workspace.container.bulk.preview(workspace.coordinator, input(ids), viewer(), SEES_ALL).effect;

  it('does nothing where it would do something else now', async () => {
    const ids = many(3);
    await tick();
    const { stamp } = look(ids);
    finishedTells();
    await tick();
    expect(() => apply(ids, stamp)).toThrow(
      'Something has changed since this preview, and the effect would differ. Preview it again.'
    );
    expect(workspace.container.stores.tasks.byId(ids[0]!)!.phase).toBe('waiting to start');
    apply(ids, look(ids).stamp);
    await tick();
    await workspace.container.outbox.drain();
    expect(await mail()).toHaveLength(3);
  });

  it('is done where what has happened since makes no difference, and where nobody had looked', async () => {
    const ids = many(4);
    await tick();
    const { stamp } = look(ids.slice(0, 2));
    add({ name: 'Something else', dueDate: '2026-04-01' });
    await tick();
    expect(apply(ids.slice(0, 2), stamp).result.changed).toBe(2);
    expect(apply(ids.slice(2), null).result.changed).toBe(2);
  });
});

it('an act that cannot be done is not foretold, and leaves nothing behind', async () => {
  const id = add({ name: 'One' });
  await tick();
  const changes = () => workspace.container.db.prepare('SELECT count(*) AS n FROM change').get();
  const before = changes();
  expect(() => ofAct([id], () => void edit(id, { dueDate: '2026-02-30' }))).toThrow();
  expect(changes()).toEqual(before);
  expect(() => workspace.container.engine.settle()).toThrow('only to be tried out');
});

it('while the engine stands and asks nothing leaves, and the preview says so', async () => {
  finishedTells();
  const ids = many(2);
  await tick();
  const finish = () => {
    for (const id of ids) edit(id, { statusId: FINISHED });
  };
  expect(ofAct(ids, finish).atOnce!.messages).toBe(2);
  const now = workspace.container.clock.now();
  workspace.container.engine.stand({ why: 'the clock jumped', since: now, until: now, answer: null });
  expect(ofAct(ids, finish).atOnce!.messages).toBe(0);
});

it('what one change makes up for leaves in one message, however slow the machine is at planning it', async () => {
  ruleOn(
    workspace,
    ruleOf([lead(-1, 'day', { time: '06:00', zone: { of: 'workspace' } })], {
      reach: 'any time',
      gather: 'per recipient'
    })
  );
  const { container, machine, coordinator, people } = workspace;
  const ids = many(5, people.Nora);
  await tick();
  const input: BulkInput = { ids, query: '', change: { act: 'due', date: '2026-03-06' } };
  const said = container.bulk.preview(coordinator, input, viewer(), SEES_ALL).effect.atOnce!;
  expect(said.messages).toBe(1);
  // Each task takes a slice of its own, and the clock runs on between two of them.
  container.clock.set(container.clock.now(), true);
  container.engine.attachPace({ sliceMs: () => 0, letOthersIn: () => Promise.resolve() });
  const replanned = container.stores.plan.settled.bind(container.stores.plan);
  container.stores.plan.settled = (id) => {
    machine.at += 700;
    replanned(id);
  };
  container.bulk.apply(coordinator, input, viewer(), SEES_ALL);
  await tick();
  await container.outbox.drain();
  expect((await received(workspace)).map(({ subject }) => subject)).toEqual(
    said.listed.map(({ subject }) => subject)
  );
});

describe('what is changed', () => {
  it('is what stands once everything that is due has been done: a rule’s act of this minute is not written over', async () => {
    const atOnce = lead(0, 'day', { time: '07:01', zone: { of: 'workspace' } });
    ruleOn(workspace, rule([atOnce], [finishes]), 'Finish');
    const [id] = many(1);
    edit(id!, { dueDate: '2026-03-05' });
    await tick();
    workspace.container.clock.set(Date.parse('2026-03-05T07:02Z'), false);
    const said = looked([id!], { act: 'owner', id: workspace.people.Meera! });
    expect(said.things[0]!.values).toEqual([{ field: 'owner', before: 'Ines', after: 'Meera' }]);
  });

  const looked = (ids: number[], change: BulkInput['change']) =>
    workspace.container.bulk.preview(workspace.coordinator, { ids, query: '', change }, viewer(), SEES_ALL)
      .effect.atOnce!.changed;

  it('is said of each task, old and new, with what rules make of it', async () => {
    ruleOn(
      workspace,
      rule([on('finished')], [{ ...finishes, acts: [{ act: 'add tag', tag: 'wound up' }] }], whenFinished),
      'Tag'
    );
    const ids = many(3);
    await tick();
    const changed = looked(ids, { act: 'status', id: FINISHED });
    expect(changed.more).toBe(0);
    expect(changed.things[0]).toEqual({
      ...{ taskId: ids[0], name: 'Task 0', as: null },
      values: [
        { field: 'status', before: 'To do', after: 'Finished' },
        { field: 'tag', before: 'nothing', after: 'wound up' }
      ]
    });
    expect(changed.things.map(({ taskId }) => taskId)).toEqual(ids);
  });

  it('of very many the first are listed, and the others counted', async () => {
    const ids = many(130);
    await tick();
    const changed = looked(ids, { act: 'priority', priority: 'high' });
    expect([changed.things.length, changed.more]).toEqual([100, 30]);
  });
});

describe('turning a rule off', () => {
  it('names the bells that end, those of a schedule too, which stand in no plan of a task', async () => {
    const mondays: Lead = {
      ...{ kind: 'schedule', id: 'weekly', on: true, only: null, zone: { of: 'workspace' } },
      ...{ rrule: 'FREQ=WEEKLY;BYDAY=MO', start: '2026-01-05', time: '09:00' },
      ...{ closedDay: 'as-is', oncePerDate: false }
    };
    const ruleId = ruleOn(workspace, ruleOf([mondays]), 'Mondays');
    many(2);
    await tick();
    const said = lookAt(workspace.container, workspace.people.Ines!, {
      act: 'rule off',
      ruleId
    }) as EffectView;
    // Eight or nine Mondays in sixty days, for each of them.
    expect(said.counts.gone).toBe(2 * 8);
    workspace.container.rules.turnOff(workspace.coordinator, ruleId);
    await moveTo('2026-05-04T07:00Z');
    expect(await mail()).toEqual([]);
  });
});
