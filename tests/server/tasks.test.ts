import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { TaskInput } from '../../src/lib/server/schema/task.ts';
import { undoneWords } from '../../src/lib/server/service/undone-words.ts';
import { readListQuery } from '../../src/lib/server/service/task-list.ts';
import { GROUP_KEYS, SORT_KEYS, type TaskCursor } from '../../src/lib/server/store/task-list.ts';
import {
  SEES_ALL,
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

const add = (patch: Partial<TaskInput> = {}) =>
  workspace.container.tasks.add(workspace.coordinator, taskInput(patch)).result;
const edit = (id: number, patch: Partial<TaskInput>, options = {}) =>
  workspace.container.tasks.edit(workspace.coordinator, id, patch, options);
const task = (id: number) => workspace.container.stores.tasks.byId(id)!;
const moveTo = (at: string) => workspace.container.engine.moveClock(Date.parse(at));
const tick = () => workspace.container.engine.tick();
/** The third status of the test workspace is of the phase “finished”. */
const FINISHED = 3;
/** Everything of a task, as its rows say. */
const rows = (id: number) => ({
  task: workspace.container.db.prepare('SELECT * FROM task WHERE id = ?').get(id),
  rounds: workspace.container.stores.taskParts.rounds(id),
  slips: workspace.container.stores.taskParts.slips(id)
});

describe('several owners', () => {
  it('are told each, in their own zone, and nobody twice', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    const { Ines, Nora, Salim } = workspace.people;
    add({ ownerId: Nora, otherOwnerIds: [Salim!, Nora!], dueDate: '2026-03-11' });
    await moveTo('2026-03-11T12:00Z');
    expect((await received(workspace)).map(({ to, date }) => [to[0], new Date(date).toISOString()])).toEqual([
      ['salim@test.example', '2026-03-10T05:00:00.000Z'],
      ['nora@test.example', '2026-03-10T12:00:00.000Z']
    ]);
    expect(Ines).toBeDefined();
  });

  it('are managed each: their managers are told once', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { to: 'manager' }));
    const { Nora, Salim, Ines } = workspace.people;
    const id = add({ ownerId: Nora, otherOwnerIds: [Salim!], dueDate: '2026-03-10' });
    await tick();
    const { planner, liveRules } = workspace.container.source as unknown as {
      planner: { recipients(rule: unknown, task: unknown): { id: number }[] };
      liveRules(): { facts: { ofTask: boolean } }[];
    };
    const rule = workspace.container.source.liveRules().find(({ facts }) => !facts.ofTask)!.facts;
    expect(
      planner.recipients(rule, workspace.container.stores.tasks.factsOf(id)!).map((one) => one.id)
    ).toEqual([Ines]);
    expect(liveRules).toBeDefined();
  });
});

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
    expect(() => remind(id, 'owner', { anchor: 'due', n: -5, unit: 'day' })).toThrow(/has passed/);
    expect(() => remind(id, 'owner', { anchor: 'start', n: 0, unit: 'day' })).toThrow(/no start date/);
    expect(() => remind(id, 'mine', { date: '2026-02-01', time: '09:00', zone: 'Europe/Lisbon' })).toThrow(
      /has passed/
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
    expect(() => add({ rhythm: { n: 1, unit: 'week' } })).toThrow(/due date to count from/);
    const id = add({ rhythm: { n: 1, unit: 'week' }, renewFrom: 'finish' });
    edit(id, { statusId: FINISHED });
    expect(task(id)).toMatchObject({ due: { date: '2026-03-12' } });
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
    expect(() => edit(id, { name: 'Gone' })).toThrow(/no longer there/);
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
    expect(result.kept).toEqual([{ actorId: workspace.people.Ines, title: 'Task “Log B” changed' }]);
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
    expect(result).toMatchObject({ left: 1, kept: [] });
    expect(undoneWords(workspace.container, result)).toBe(
      ' 1 message has left meanwhile and cannot be taken back.'
    );
    expect(
      undoneWords(workspace.container, {
        left: 0,
        kept: [{ actorId: workspace.people.Nora!, title: 'Task “A” changed' }]
      })
    ).toBe(' 1 later edit was kept: “Task “A” changed” by Nora.');
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
      '1 open below it: “Open part”. Finish them first, or with it.'
    );
    expect(task(id)).toMatchObject({ phase: 'waiting to start' });
    edit(id, { statusId: FINISHED }, { withSubtasks: true });
    for (const one of [id, open, done]) expect(task(one)).toMatchObject({ phase: 'finished' });
  });

  it('never stand under themselves', () => {
    const id = add({ name: 'A' });
    const child = add({ name: 'B', parentId: id });
    expect(() => edit(id, { parentId: child })).toThrow(/under itself/);
    expect(() => edit(id, { parentId: id })).toThrow(/under itself/);
    expect(() => edit(id, { parentId: 999 })).toThrow(/no longer there/);
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

describe('the list', () => {
  const viewer = () => ({
    zone: workspace.container.source.facts.workspace.zone,
    personId: workspace.people.Ines!
  });
  const names = (search: string) =>
    workspace.container.taskLists
      .page(readListQuery(new URLSearchParams(search)), null, viewer(), SEES_ALL)
      .rows.map(({ name }) => name);

  it('finds words in names, descriptions and comments, in any case and with any accents', () => {
    add({ name: 'Calibração do maré­grafo', description: 'the quay' });
    const commented = add({ name: 'Second' });
    workspace.container.taskActs.comment(workspace.coordinator, commented, 'Waiting for the Derwent office');
    expect(names('text=calibracao')).toHaveLength(1);
    expect(names('text=QUAY')).toHaveLength(1);
    expect(names('text=derw')).toEqual(['Second']);
    expect(names('text=%22%27*(')).toEqual([]);
    expect(names('text=nothing+like+this')).toEqual([]);
    edit(commented, { name: 'Renamed' });
    expect(names('text=second')).toEqual([]);
    expect(names('text=renamed')).toEqual(['Renamed']);
  });

  it('shows what is set aside only where it is asked for', () => {
    const [a, b] = [add({ name: 'Archived' }), add({ name: 'Binned' })];
    add({ name: 'Here' });
    workspace.container.taskActs.archive(workspace.coordinator, a);
    workspace.container.taskActs.bin(workspace.coordinator, b);
    expect(names('')).toEqual(['Here']);
    expect(names('show=all')).toEqual(['Here']);
    expect(names('show=archived')).toEqual(['Archived']);
    expect(names('show=binned')).toEqual(['Binned']);
  });

  it('page by page gives every task once, in order, for any order and grouping', () => {
    const { Nora, Salim } = workspace.people;
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            name: fc.constantFrom('a', 'B', 'ç', 'd'),
            ownerId: fc.constantFrom(null, Nora!, Salim!),
            priority: fc.constantFrom('low', 'high', 'pressing') as fc.Arbitrary<'low'>,
            dueDate: fc.constantFrom(null, '2026-03-09', '2026-03-10')
          }),
          { minLength: 1, maxLength: 12 }
        ),
        fc.constantFrom(...SORT_KEYS),
        fc.boolean(),
        fc.constantFrom(null, ...GROUP_KEYS),
        fc.integer({ min: 1, max: 4 }),
        (tasks, sort, down, group, size) => {
          const ids = tasks.map((patch) => add(patch));
          const { taskList } = workspace.container.stores;
          const filter = { ids, sight: SEES_ALL };
          const order = { sort, down, group };
          const whole = taskList.page(filter, order, null, 100).tasks.map(({ id }) => id);
          expect([...whole].sort((a, b) => a - b)).toEqual(ids);
          const paged: number[] = [];
          let after: TaskCursor | null = null;
          do {
            const page: ReturnType<typeof taskList.page> = taskList.page(filter, order, after, size);
            paged.push(...page.tasks.map(({ id }) => id));
            after = page.next;
          } while (after);
          expect(paged).toEqual(whole);
          expect(taskList.count(filter)).toBe(ids.length);
          if (group) {
            const groups = taskList.groups(filter, group);
            expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(ids.length);
          }
        }
      ),
      { numRuns: 60 }
    );
  });

  it('reads an address that makes no sense as one that says nothing', () => {
    expect(
      readListQuery(new URLSearchParams('show=x&sort=y&group=z&owner=-1&from=2026-02-30&due=q&shape=w'))
    ).toEqual(readListQuery(new URLSearchParams()));
    expect(names('after=%00%00')).toEqual([]);
  });
});

describe('a change of many', () => {
  const viewer = () => ({
    zone: workspace.container.source.facts.workspace.zone,
    personId: workspace.people.Ines!
  });

  it('says what it would do, does it in one change, and is undone in one', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    const ids = Array.from({ length: 30 }, (_, i) =>
      add({ name: `Task ${i}`, ownerId: workspace.people.Salim, dueDate: '2026-03-10' })
    );
    const undated = add({ name: 'Undated' });
    await tick();
    const before = [...ids, undated].map(rows);
    const { bulk, committer } = workspace.container;
    const input = {
      ids: [...ids, undated, 9_999],
      query: '',
      change: { act: 'shift', n: 2, unit: 'workday' } as const
    };
    const preview = bulk.preview(input, viewer(), SEES_ALL);
    expect(preview).toMatchObject({
      chosen: 32,
      changes: 30,
      left: [
        { reason: 'no due date to move', count: 1, names: ['Undated'] },
        { reason: 'no longer there', count: 1 }
      ]
    });
    expect(preview.effect.counts).toMatchObject({ moved: 30, due: 30 });
    expect([...ids, undated].map(rows)).toEqual(before);

    const { changeId, result } = bulk.apply(workspace.coordinator, input, viewer(), SEES_ALL);
    expect(result.changed).toBe(30);
    // Two working days of the owner, whose week is Sunday to Thursday: from Tuesday to Thursday.
    for (const id of ids) expect(task(id).due).toMatchObject({ date: '2026-03-12' });
    const head = workspace.container.db.prepare('SELECT source FROM change WHERE id = ?').get(changeId);
    expect(head).toEqual({ source: 'bulk' });
    committer.undo(changeId, workspace.people.Ines!);
    expect([...ids, undated].map(rows)).toEqual(before);
  });

  it('leaves out what somebody may not change, and what it would not change', () => {
    const { Nora, Salim } = workspace.people;
    const mine = add({ name: 'Mine', ownerId: Nora, projectId: workspace.project });
    const theirs = add({ name: 'Theirs', ownerId: Salim, projectId: workspace.project });
    const sight = { personId: Nora!, all: false, reports: [] };
    const input = { ids: [mine, theirs], query: '', change: { act: 'priority', priority: 'high' } as const };
    expect(workspace.container.bulk.preview(input, viewer(), sight)).toMatchObject({
      changes: 1,
      left: [{ reason: 'somebody else’s', names: ['Theirs'] }]
    });
    expect(() =>
      workspace.container.bulk.apply(
        { personId: Nora!, source: 'person' },
        { ...input, ids: [theirs] },
        viewer(),
        sight
      )
    ).toThrow(/No task is chosen/);
  });
});

describe('what a change of a task would do', () => {
  it('names what becomes overdue, what moves, what is withdrawn and what is made up for', async () => {
    ruleOn(workspace, ruleOf([lead(-2, 'workday')]));
    const { Nora } = workspace.people;
    const id = add({ name: 'Haul', ownerId: Nora, dueDate: '2026-03-20' });
    await tick();
    const viewer = {
      zone: workspace.container.source.facts.workspace.zone,
      personId: workspace.people.Ines!
    };
    const would = (patch: { day: number }) =>
      workspace.container.effects.ofTasks(
        new Map([
          [id, (facts) => ({ ...facts, due: { day: facts.due!.day + patch.day, minute: null, zone: null } })]
        ]),
        viewer
      );
    expect(would({ day: 3 }).counts).toMatchObject({ moved: 1, due: 1, overdue: 0 });
    // Due tomorrow: two working days before has passed, and is made up for.
    const near = would({ day: -14 });
    expect(near.lines.find(({ kind }) => kind === 'added')?.after).toMatch(/^made up for/);
    expect(near.counts).toMatchObject({ gone: 1 });
    expect(would({ day: -16 }).counts).toMatchObject({ overdue: 1 });
  });
});
