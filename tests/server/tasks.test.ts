import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { undoneWords } from '../../src/lib/server/record/undone-words.ts';
import { FINISHED, tasksIn } from '../support/tasks.ts';
import {
  MANAGER,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const { add, edit, task, moveTo, tick } = tasksIn(() => workspace);

describe('several owners', () => {
  it('are told each, in their own zone, and nobody twice', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    const { Nora, Salim } = workspace.people;
    add({ ownerId: Nora, otherOwnerIds: [Salim!, Nora!], dueDate: '2026-03-11' });
    await moveTo('2026-03-11T12:00Z');
    expect((await received(workspace)).map(({ to, date }) => [to[0], new Date(date).toISOString()])).toEqual([
      ['salim@test.example', '2026-03-10T05:00:00.000Z'],
      ['nora@test.example', '2026-03-10T12:00:00.000Z']
    ]);
  });

  it('are managed each: their managers are told once', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { to: [MANAGER] }));
    const { Nora, Salim, Ines } = workspace.people;
    const id = add({ ownerId: Nora, otherOwnerIds: [Salim!], dueDate: '2026-03-10' });
    await tick();
    const rule = workspace.container.source.liveRules().find(({ facts }) => !facts.ofTask)!.facts;
    expect(
      workspace.container.source.planner.audience
        .everybody(rule, workspace.container.stores.tasks.factsOf(id)!)
        .map((one) => one.id)
    ).toEqual([Ines]);
  });
});

describe('what is set aside', () => {
  it('is silent, and rings again for what is still ahead when it is back', async () => {
    ruleOn(workspace, ruleOf([lead(-3, 'day'), lead(-1, 'day')]));
    const id = add({ ownerId: workspace.people.Salim, dueDate: '2026-03-12' });
    const { changeId } = workspace.container.taskActs.park(workspace.coordinator, id, '2026-03-20');
    expect(task(id)).toMatchObject({
      setAside: 'parked',
      ownerId: null,
      formerOwnerId: workspace.people.Salim,
      reviewDate: '2026-03-20'
    });
    await moveTo('2026-03-10T00:00Z');
    expect(await received(workspace)).toEqual([]);
    workspace.container.taskActs.restore(workspace.coordinator, id);
    expect(task(id)).toMatchObject({ setAside: null, ownerId: workspace.people.Salim, reviewDate: null });
    await moveTo('2026-03-13T00:00Z');
    expect((await received(workspace)).map(({ date }) => new Date(date).toISOString())).toEqual([
      '2026-03-11T05:00:00.000Z'
    ]);
    expect(changeId).toBeGreaterThan(0);
  });

  it('is nobody’s while it is parked: given to somebody it is back, and the database says so', async () => {
    const id = add({ ownerId: workspace.people.Salim });
    workspace.container.taskActs.park(workspace.coordinator, id, '2026-03-20');
    edit(id, { name: 'Another name' });
    expect(task(id)).toMatchObject({ setAside: 'parked', ownerId: null });
    edit(id, { ownerId: workspace.people.Meera! });
    expect(task(id)).toMatchObject({
      ...{ setAside: null, setAsideAt: null, reviewDate: null },
      ...{ ownerId: workspace.people.Meera, formerOwnerId: null }
    });
    expect(() =>
      workspace.container.db.exec(`UPDATE task SET set_aside = 'parked', set_aside_at = 0 WHERE id = ${id}`)
    ).toThrow('a parked task has no owner');
  });

  it('leaves the bin after thirty days with everything that hung on it, and not before', async () => {
    const id = add({ tags: ['x'] });
    workspace.container.taskActs.comment(workspace.coordinator, id, 'Why is this here?');
    workspace.container.taskActs.bin(workspace.coordinator, id);
    expect(() => edit(id, { name: 'Still wanted' })).toThrow(/in the bin/);
    expect(() => workspace.container.taskActs.comment(workspace.coordinator, id, 'x')).toThrow(/in the bin/);
    await moveTo('2026-04-04T07:59Z');
    expect(task(id)).toMatchObject({ setAside: 'binned' });
    await moveTo('2026-04-04T08:00Z');
    expect(task(id)).toBeNull();
    expect(workspace.container.stores.taskParts.comments(id)).toEqual([]);
    expect(() => edit(id, { name: 'Gone' })).toThrow(/was not found/);
  });

  it('a project that is called off silences its tasks; opened again, what is ahead rings', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    add({ ownerId: workspace.people.Salim, projectId: workspace.project, dueDate: '2026-03-10' });
    add({ ownerId: workspace.people.Salim, projectId: workspace.project, dueDate: '2026-03-17' });
    const { projects } = workspace.container;
    const input = {
      name: 'Permits',
      description: '',
      zone: null,
      calendarId: null,
      pinned: false,
      register: false
    } as const;
    projects.edit(workspace.coordinator, workspace.project, { ...input, state: 'called off' });
    await moveTo('2026-03-12T00:00Z');
    expect(await received(workspace)).toEqual([]);
    expect(workspace.container.tower.idsOf('overdue')).toEqual([]);
    projects.edit(workspace.coordinator, workspace.project, { ...input, state: 'open' });
    await moveTo('2026-03-17T00:00Z');
    expect(await received(workspace)).toHaveLength(1);
  });

  it('an entry of a register rings by its date and is never overdue', async () => {
    ruleOn(workspace, ruleOf([lead(1, 'day')]));
    const { projects } = workspace.container;
    projects.edit(workspace.coordinator, workspace.project, {
      name: 'Certificates',
      description: '',
      zone: null,
      calendarId: null,
      pinned: false,
      state: 'open',
      register: true
    });
    add({ ownerId: workspace.people.Salim, projectId: workspace.project, dueDate: '2026-03-08' });
    await moveTo('2026-03-10T00:00Z');
    expect(workspace.container.tower.idsOf('overdue')).toEqual([]);
    expect(await received(workspace)).toHaveLength(1);
  });
});

describe('two people editing one task', () => {
  it('each keep the fields that only they changed; who comes second to one field is told', () => {
    const id = add({ name: 'Log', ownerId: workspace.people.Nora, dueDate: '2026-03-09' });
    const base = { name: 'Log', dueDate: '2026-03-09', dueTime: null, priority: 'ordinary' as const };
    edit(id, { dueDate: '2026-03-10', dueTime: null }, { base });
    const { result } = edit(
      id,
      { name: 'Log the drift', dueDate: '2026-03-12', dueTime: null, priority: 'high' },
      { base }
    );
    expect(task(id)).toMatchObject({ name: 'Log the drift', priority: 'high', due: { date: '2026-03-10' } });
    expect(result.lost).toEqual([
      {
        fields: ['dueDate', 'dueTime'],
        yours: { dueDate: '2026-03-12', dueTime: null },
        theirs: { dueDate: '2026-03-10', dueTime: null }
      }
    ]);
    // The same value twice is no clash.
    expect(edit(id, { dueDate: '2026-03-10', dueTime: null }, { base }).result.lost).toEqual([]);
  });

  it('undo of one keeps the later edit of the other', () => {
    const id = add({ name: 'Log' });
    const first = edit(id, { name: 'Log A', priority: 'high' });
    edit(id, { name: 'Log B' });
    const { result } = workspace.container.committer.undo(first.changeId, workspace.people.Ines!);
    expect(result.kept).toMatchObject([{ actorId: workspace.people.Ines, title: 'Task “Log B” changed' }]);
    expect(task(id)).toMatchObject({ name: 'Log B', priority: 'ordinary' });
  });
});

describe('undo', () => {
  it('says when a message has left because of what is taken back', async () => {
    ruleOn(workspace, ruleOf([lead(-2, 'day')]));
    await tick();
    // At work in Muscat: the ring of two days before is made up for at once.
    const { changeId } = workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({ ownerId: workspace.people.Salim, dueDate: '2026-03-06' })
    );
    await tick();
    await workspace.container.outbox.drain();
    const { result } = workspace.container.committer.undo(changeId, workspace.people.Ines!);
    expect(result).toMatchObject({ left: [{ readerId: workspace.people.Salim }], kept: [] });
    expect(undoneWords(workspace.container, result)).toBe(
      ' 1 message was sent meanwhile. This cannot be undone.'
    );
    expect(
      undoneWords(workspace.container, {
        left: [],
        kept: [{ actorId: workspace.people.Nora!, title: 'Task “A” changed' }]
      })
    ).toBe(' 1 later edit was not undone: “Task “A” changed” by Nora.');
  });
});

describe('subtasks', () => {
  it('that are open keep their task from being finished, unless they are finished with it', () => {
    const id = add({ name: 'Whole' });
    const [open, done] = [
      add({ name: 'Open part', parentId: id }),
      add({ name: 'Done part', parentId: id, statusId: FINISHED })
    ];
    expect(() => edit(id, { statusId: FINISHED })).toThrow(
      '1 subtask is still open: “Open part”. Finish all of them, or cancel.'
    );
    expect(task(id)).toMatchObject({ phase: 'waiting to start' });
    edit(id, { statusId: FINISHED }, { withSubtasks: true });
    for (const one of [id, open, done]) expect(task(one)).toMatchObject({ phase: 'finished' });
  });

  it('never stand under themselves', () => {
    const id = add({ name: 'A' });
    const child = add({ name: 'B', parentId: id });
    expect(() => edit(id, { parentId: child })).toThrow(/its own subtask/);
    expect(() => edit(id, { parentId: id })).toThrow(/its own subtask/);
    expect(() => edit(id, { parentId: 999 })).toThrow(/was not found/);
  });
});

describe('own fields', () => {
  const kinds = [
    ['number', '3,5', 3.5],
    ['yes or no', 'yes', true],
    ['one choice', 'reef', 'reef'],
    ['many choices', ['reef', 'quay'], ['reef', 'quay']],
    ['date', '2026-03-10', '2026-03-10'],
    ['date with time', '2026-03-10T09:30', '2026-03-10T09:30'],
    ['date range', { from: '2026-03-10', until: '2026-03-12' }, { from: '2026-03-10', until: '2026-03-12' }],
    ['link', 'https://tides.example/map', 'https://tides.example/map'],
    ['text', '<b>as typed</b>', '<b>as typed</b>']
  ] as const;
  it.each(kinds)('of the kind %s keeps its value', (kind, given, stored) => {
    const { result: field } = workspace.container.fields.save(workspace.coordinator, {
      id: null,
      name: 'Own',
      kind,
      choices: ['reef', 'quay'],
      metByStatusId: null
    });
    const id = add({ fields: { [field]: given as never } });
    const value = () => workspace.container.stores.fields.valuesOf(id)[0]?.value;
    expect(value()).toEqual(stored);
    edit(id, { fields: { [field]: null } });
    expect(value()).toBeUndefined();
  });

  it.each([
    ['number', 'many'],
    ['date', '2026-02-30'],
    ['date range', { from: '2026-03-12', until: '2026-03-10' }],
    ['one choice', 'elsewhere'],
    ['link', 'javascript:alert(1)']
  ] as const)('of the kind %s refuses %j with a sentence', (kind, given) => {
    const { result: field } = workspace.container.fields.save(workspace.coordinator, {
      id: null,
      name: 'Own',
      kind,
      choices: ['reef'],
      metByStatusId: null
    });
    expect(() => add({ fields: { [field]: given as never } })).toThrow(/^Own: /);
  });
});
