import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readListQuery } from '../../src/lib/server/store/list-query.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { FINISHED, tasksIn } from '../support/tasks.ts';
import {
  SEES_ALL,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  type TestWorkspace
} from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const { add, edit, task, moveTo, tick, rows } = tasksIn(() => workspace);

describe('a reminder on a task', () => {
  const remind = (
    id: number,
    whose: 'mine' | 'owner',
    timing: Parameters<typeof workspace.container.taskActs.remind>[2]['timing']
  ) => workspace.container.taskActs.remind(workspace.coordinator, id, { whose, timing });

  it('rings for whoever set it, for whoever owns the task, and at a moment of its own', async () => {
    const { Nora } = workspace.people;
    const id = add({ name: 'Haul', ownerId: Nora, dueDate: '2026-03-09', dueTime: '15:00' });
    remind(id, 'mine', { anchor: 'due', n: -30, unit: 'minute' });
    remind(id, 'owner', { anchor: 'due', n: -2, unit: 'workday' });
    remind(id, 'mine', { date: '2026-03-07', time: '10:15', zone: 'Europe/Lisbon' });
    await moveTo('2026-03-10T00:00Z');
    expect((await received(workspace)).map(({ to, date }) => [to[0], new Date(date).toISOString()])).toEqual([
      // Two working days before, at the due time on the wall of Halifax.
      ['nora@test.example', '2026-03-05T19:00:00.000Z'],
      // A Saturday, outside working hours: a reminder that somebody sets rings then all the same.
      ['ines@test.example', '2026-03-07T10:15:00.000Z'],
      // 15:00 in Halifax, which put its clocks forward on the 8th.
      ['ines@test.example', '2026-03-09T17:30:00.000Z']
    ]);
  });

  it('goes with its task: re-dated, given to somebody else, taken off, set aside', async () => {
    const { Nora, Salim } = workspace.people;
    const id = add({ ownerId: Nora, dueDate: '2026-03-09' });
    const { result: reminder } = remind(id, 'owner', { anchor: 'due', n: -1, unit: 'day' });
    const planned = () =>
      workspace.container.stores.plan
        .all()
        .map(({ recipientId, ringAt }) => [recipientId, new Date(ringAt).toISOString()]);
    await tick();
    // Sunday 8 March is closed: earlier, on Friday.
    expect(planned()).toEqual([[Nora, '2026-03-06T13:00:00.000Z']]);
    edit(id, { dueDate: '2026-03-12' });
    await tick();
    expect(planned()).toEqual([[Nora, '2026-03-11T12:00:00.000Z']]);
    edit(id, { ownerId: Salim });
    await tick();
    expect(planned()).toEqual([[Salim, '2026-03-11T05:00:00.000Z']]);
    const { changeId } = workspace.container.taskActs.dropReminder(workspace.coordinator, id, reminder);
    await tick();
    expect(planned()).toEqual([]);
    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    await tick();
    expect(planned()).toHaveLength(1);
    workspace.container.taskActs.archive(workspace.coordinator, id);
    await moveTo('2026-03-12T00:00Z');
    expect(await received(workspace)).toEqual([]);
  });

  it('is refused where it would never ring', () => {
    const id = add({ ownerId: workspace.people.Nora, dueDate: '2026-03-06' });
    expect(() => remind(id, 'owner', { anchor: 'due', n: -5, unit: 'day' })).toThrow(/is past/);
    expect(() => remind(id, 'owner', { anchor: 'start', n: 0, unit: 'day' })).toThrow(/no start date/);
    expect(() => remind(id, 'mine', { date: '2026-02-01', time: '09:00', zone: 'Europe/Lisbon' })).toThrow(
      /is past/
    );
  });
});

describe('a recurring task', () => {
  const weekly: Partial<TaskInput> = { rhythm: { n: 1, unit: 'week' }, renewFrom: 'due' };

  it('comes back when it is finished, with its reminders; undo takes the round and its rings back', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    const { Salim } = workspace.people;
    const id = add({
      ...weekly,
      ownerId: Salim,
      dueDate: '2026-03-09',
      startDate: '2026-03-08',
      percent: 40
    });
    const child = add({ name: 'Part', parentId: id, dueDate: '2026-03-08', statusId: FINISHED });
    workspace.container.taskActs.remind(workspace.coordinator, id, {
      whose: 'owner',
      timing: { anchor: 'due', n: 0, unit: 'day' }
    });
    await moveTo('2026-03-09T09:00Z');
    const before = [rows(id), rows(child)];
    const { changeId, result } = edit(id, { statusId: FINISHED });
    expect(result.renewed).toEqual({ due: '2026-03-16', skipped: [] });
    expect(task(id)).toMatchObject({
      round: 1,
      phase: 'waiting to start',
      finishedAt: null,
      percent: 0,
      due: { date: '2026-03-16' },
      originalDue: { date: '2026-03-16' },
      start: { date: '2026-03-15' }
    });
    // Its subtask begins anew a week on.
    expect(task(child)).toMatchObject({ round: 1, phase: 'waiting to start', due: { date: '2026-03-15' } });
    expect(workspace.container.stores.taskParts.rounds(id)).toMatchObject([
      { round: 0, due: '2026-03-09', finishedAt: Date.parse('2026-03-09T09:00Z') }
    ]);
    await tick();
    expect(workspace.container.stores.plan.all().filter(({ taskId }) => taskId === id)).toHaveLength(2);

    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    expect([rows(id), rows(child)]).toEqual(before);
    await tick();
    // What has rung in the round before is not rung again.
    expect(workspace.container.stores.plan.all().filter(({ taskId }) => taskId === id)).toEqual([]);
    edit(id, { statusId: FINISHED });
    await moveTo('2026-03-17T00:00Z');
    const times = (await received(workspace)).map(({ date }) => new Date(date).toISOString());
    expect(times).toEqual([
      '2026-03-08T05:00:00.000Z',
      '2026-03-09T05:00:00.000Z',
      '2026-03-15T05:00:00.000Z',
      '2026-03-16T05:00:00.000Z'
    ]);
  });

  it('counts slips anew in each round, and keeps its rhythm through them', () => {
    const id = add({ ...weekly, dueDate: '2026-03-09' });
    edit(id, { dueDate: '2026-03-11' });
    expect(task(id)).toMatchObject({ slips: 1, originalDue: { date: '2026-03-09' } });
    edit(id, { statusId: FINISHED });
    expect(task(id)).toMatchObject({
      slips: 0,
      due: { date: '2026-03-16' },
      originalDue: { date: '2026-03-16' }
    });
  });

  it('by the calendar comes back on its date, unfinished or not, as the clock moves', async () => {
    const id = add({
      ownerId: workspace.people.Salim,
      dueDate: '2026-03-09',
      rhythm: { n: 1, unit: 'week' },
      renewFrom: 'calendar'
    });
    await moveTo('2026-03-15T19:59Z');
    expect(task(id)).toMatchObject({ round: 0 });
    // Midnight of Monday the 16th in Muscat.
    await moveTo('2026-03-15T20:00Z');
    expect(task(id)).toMatchObject({ round: 1, due: { date: '2026-03-16' } });
    await moveTo('2026-03-31T00:00Z');
    expect(task(id)).toMatchObject({ round: 3, due: { date: '2026-03-30' } });
    expect(workspace.container.stores.taskParts.rounds(id).map(({ finishedAt }) => finishedAt)).toEqual([
      null,
      null,
      null
    ]);
  });

  it('leaves a finished copy behind where that was chosen', () => {
    const id = add({
      ...weekly,
      name: 'Count bottles',
      dueDate: '2026-03-09',
      renewCopy: true,
      tags: ['stock']
    });
    edit(id, { statusId: FINISHED });
    const copies = workspace.container.taskLists.page(
      readListQuery(new URLSearchParams('show=done')),
      null,
      { zone: workspace.container.source.facts.workspace.zone, personId: null },
      SEES_ALL
    ).rows;
    expect(copies).toMatchObject([
      { name: 'Count bottles', due: 'Mon 9 Mar', tags: ['stock'], recurring: false }
    ]);
    expect(task(id)).toMatchObject({ phase: 'waiting to start', due: { date: '2026-03-16' } });
  });

  it('needs a date to count from', () => {
    expect(() => add({ rhythm: { n: 1, unit: 'week' } })).toThrow(/needs a due date/);
    const id = add({ rhythm: { n: 1, unit: 'week' }, renewFrom: 'finish' });
    edit(id, { statusId: FINISHED });
    expect(task(id)).toMatchObject({ due: { date: '2026-03-12' } });
  });
});
