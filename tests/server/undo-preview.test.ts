import { describe, expect, it } from 'vitest';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';
import { changeView, doneToProject, undoPreview } from '../../src/lib/server/record/change-views.ts';
import type { Undoer } from '../../src/lib/server/record/undo.ts';
import { lead, received, ruleOf, ruleOn, SEES_ALL } from '../support/workspace.ts';
import {
  FINISHED,
  add,
  eachInAWorkspace,
  edit,
  moveTo,
  on,
  rule,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** A change as it opens: what it did, what taking it back would do before it is done, and who is told afterwards. Thursday 5 March 2026, 07:00Z. */
eachInAWorkspace();

const viewer = () => ({
  zone: workspace.container.source.facts.workspace.zone,
  personId: workspace.people.Ines!
});
const coordinator = (): Undoer => ({
  personId: workspace.people.Ines!,
  sight: { ...SEES_ALL, personId: workspace.people.Ines! },
  may: () => true
});
const nora = (): Undoer => ({
  personId: workspace.people.Nora!,
  sight: { personId: workspace.people.Nora!, all: false, reports: [] },
  may: () => false
});
const opened = (id: number) => changeView(workspace.container, id, viewer(), coordinator())!;
const preview = (id: number) => undoPreview(workspace.container, id, viewer(), coordinator());
const finishing = () => {
  const watch = { ...rule([], []).watch, states: ['finished' as const] };
  ruleOn(workspace, rule([on('finished')], [tell('tell', { subject: 'Finished: ‹task›' })], { watch }));
};
const finish = (ids: number[]) =>
  workspace.container.bulk.apply(
    workspace.coordinator,
    { ids, query: '', change: { act: 'status', id: FINISHED } },
    viewer(),
    coordinator().sight
  ).changeId;
/** Everything in the database, so that what was only looked at is seen to have left nothing. */
const everything = () => workspace.container.db.serialize().toString('base64');

describe('what taking back would do', () => {
  it('is said before, and leaves nothing', async () => {
    finishing();
    ruleOn(workspace, ruleOf([lead(-1, 'day')], { subject: 'Soon: ‹task›' }));
    const ids = [add({ name: 'One', dueDate: '2026-03-10' }), add({ name: 'Two', dueDate: '2026-03-10' })];
    await tick();
    const changeId = finish(ids);
    edit(ids[1]!, { name: 'Two, renamed', statusId: 2 });
    await tick();
    const before = everything();
    const would = preview(changeId);
    expect(everything()).toBe(before);
    expect(would.things).toEqual([
      {
        ...{ taskId: ids[0], name: 'One', as: null },
        values: [{ field: 'status', before: 'Finished', after: 'To do' }]
      }
    ]);
    expect(would.kept).toEqual({ count: 1, listed: [{ what: 'Task “Two, renamed” changed', by: 'Ines' }] });
    const at = 'Thu 5 Mar, 09:00';
    expect(would.withdrawn).toEqual({
      count: 2,
      listed: [
        { task: 'One', to: 'Ines', at },
        { task: 'Two, renamed', to: 'Ines', at }
      ]
    });
    expect(would.left.count).toBe(0);
    expect(would.effect!.counts).toMatchObject({ added: 1 });
    // And so it comes.
    workspace.container.undo.undo(changeId, coordinator());
    await tick();
    expect(opened(changeId)).toMatchObject({
      undone: { by: 'Ines' },
      stays: 'This was undone already.'
    });
    await moveTo('2026-03-10T12:00Z');
    expect((await received(workspace)).map(({ subject }) => subject).filter((one) => /:/.test(one))).toEqual([
      'Soon: One',
      'Soon: Two, renamed'
    ]);
  });

  it('takes the rounds back that a change of many has opened', async () => {
    const weekly = { rhythm: { n: 1, unit: 'week' as const }, renewFrom: 'due' as const };
    const ids = [add({ dueDate: '2026-03-06', ...weekly }), add({ dueDate: '2026-03-07', ...weekly })];
    await tick();
    const changeId = finish(ids);
    const { tasks } = workspace.container.stores;
    expect(ids.map((id) => tasks.byId(id)!.due!.date)).toEqual(['2026-03-13', '2026-03-14']);
    workspace.container.undo.undo(changeId, coordinator());
    expect(ids.map((id) => tasks.byId(id)!.due!.date)).toEqual(['2026-03-06', '2026-03-07']);
    expect(ids.map((id) => tasks.byId(id)!.round)).toEqual([0, 0]);
  });

  it('is refused where it may not be taken back, as taking back is', () => {
    const { changeId } = edit(add({}), { priority: 'high' });
    expect(() => undoPreview(workspace.container, changeId, viewer(), nora())).toThrow(
      'Only that person or a coordinator can undo this.'
    );
    expect(changeView(workspace.container, changeId, viewer(), nora())).toBeNull();
    expect(changeView(workspace.container, 99_999, viewer(), coordinator())).toBeNull();
  });
});

it('a change of another person’s private task is not opened, nor taken back, by a coordinator; what was binned is', () => {
  const { taskActs, tasks } = workspace.container;
  const byNora = { personId: workspace.people.Nora!, source: 'person' as const };
  const theirs = add({ name: 'Secret', ownerId: workspace.people.Nora! });
  const { changeId } = tasks.edit(byNora, theirs, { private: true });
  const comment = taskActs.comment(byNora, theirs, 'A word');
  for (const id of [changeId, comment.changeId])
    expect(changeView(workspace.container, id, viewer(), coordinator())).toBeNull();
  expect(() => workspace.container.undo.undo(changeId, coordinator())).toThrow('a task that you do not see');
  const own = add({});
  const binned = taskActs.bin(workspace.coordinator, own);
  expect(opened(binned.changeId)).toMatchObject({ stays: null });
  workspace.container.undo.undo(binned.changeId, coordinator());
  expect(workspace.container.stores.tasks.byId(own)?.setAside).toBeNull();
});

describe('what a sweep did', () => {
  it('is taken back with its run, and not chunk by chunk', async () => {
    const id = add({ statusId: FINISHED });
    const definition = { ...blankSweep('archive'), ...{ wait: { n: 0, unit: 'day' as const } } };
    const archive = { ...definition, act: { act: 'archive' as const, after: 'finished' as const } };
    const { sweeps, engine, stores } = workspace.container;
    const input = { name: 'Archive', description: '', definition: archive };
    const sweepId = sweeps.insert(workspace.coordinator, input).result;
    const runId = sweeps.look(sweepId);
    await engine.tick();
    sweeps.run(workspace.coordinator, runId, true);
    await engine.tick();
    expect(stores.tasks.byId(id)?.setAside).toBe('archived');
    const chunk = stores.sweepRuns.lastChunk(runId)!;
    expect(opened(chunk)).toMatchObject({
      sweepRunId: runId,
      stays: expect.stringMatching(/Undo the whole run/)
    });
    expect(() => workspace.container.undo.undo(chunk, coordinator())).toThrow(
      'This is part of a sweep. Undo the whole run, on its page.'
    );
  });
});

describe('what has left', () => {
  it('is told to those who read it, once, that it was taken back', async () => {
    finishing();
    const ids = [add({ name: 'One', ownerId: workspace.people.Meera! }), add({ name: 'Two' })];
    await tick();
    const changeId = finish(ids);
    await moveTo('2026-03-05T12:00Z');
    expect(preview(changeId).left).toMatchObject({
      count: 2,
      listed: [{ to: 'Meera' }, { to: 'Ines', subject: 'Finished: Two' }]
    });
    workspace.container.undo.undo(changeId, coordinator());
    const { undone, readers } = opened(changeId);
    expect(readers).toBe(2);
    expect(workspace.container.takenBack.tell(workspace.coordinator, undone!.changeId)).toBe(2);
    await workspace.container.outbox.drain();
    const told = (await received(workspace)).filter(({ subject }) => subject.startsWith('Undone'));
    expect(told.map(({ to }) => to[0]).sort()).toEqual(['ines@test.example', 'meera@test.example']);
    const { text } = (await workspace.container.postRoom.message(told[0]!.id)) as { text: string };
    expect(text).toContain('“Finished: ');
    expect(text).toContain('Ines undid what it was about, “2 tasks set to “Finished””.');
    expect(opened(changeId).readers).toBe(0);
    expect(() => workspace.container.takenBack.tell(workspace.coordinator, undone!.changeId)).toThrow(
      'Nobody got a message about it'
    );
  });
});

describe('what was done to a project', () => {
  it('is listed: to itself, by hand, and to several of its tasks at once', async () => {
    const projectId = workspace.project;
    const ids = [add({ projectId }), add({ projectId })];
    edit(ids[0]!, { priority: 'high' });
    const changeId = finish(ids);
    const lately = () => doneToProject(workspace.container, projectId, viewer(), coordinator());
    expect(lately().map(({ id, undone }) => [id, undone])).toContainEqual([changeId, false]);
    expect(lately().map(({ title }) => title)).not.toContain('Task “Task” changed');
    workspace.container.undo.undo(changeId, coordinator());
    expect(lately().find(({ id }) => id === changeId)).toMatchObject({ undone: true });
    await moveTo('2026-04-10T07:00Z');
    expect(lately()).toEqual([]);
  });
});
