import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { BulkChange } from '../../src/lib/server/task/bulk-schema.ts';
import { readListQuery } from '../../src/lib/server/store/list-query.ts';
import { columnsView, daysView } from '../../src/lib/server/task/task-shapes.ts';
import { GROUP_KEYS, SORT_KEYS, type TaskCursor } from '../../src/lib/server/store/task-list.ts';
import { drawn } from '../support/drawn.ts';
import { FINISHED, tasksIn } from '../support/tasks.ts';
import { SEES_ALL, lead, openWorkspace, ruleOf, ruleOn, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const { add, edit, task, tick, rows, viewer } = tasksIn(() => workspace);

describe('the list', () => {
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
      drawn(60)
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
    const preview = bulk.preview(workspace.coordinator, input, viewer(), SEES_ALL);
    expect(preview).toMatchObject({
      chosen: 32,
      changes: 30,
      left: [
        { reason: 'no due date to move', count: 1, names: ['Undated'] },
        { reason: 'not found', count: 1 }
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
    const by = { personId: Nora!, source: 'person' as const };
    expect(workspace.container.bulk.preview(by, input, viewer(), sight)).toMatchObject({
      changes: 1,
      left: [{ reason: 'not your task', names: ['Theirs'] }]
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
    const would = (dueDate: string) =>
      workspace.container.effects.ofAct([id], () => void edit(id, { dueDate }), viewer);
    expect(would('2026-03-23').counts).toMatchObject({ moved: 1, due: 1, overdue: 0 });
    // Due tomorrow: two working days before has passed, and is made up for.
    const near = would('2026-03-06');
    expect(near.lines.find(({ kind }) => kind === 'added')?.after).toMatch(
      /, sent late, because its time has passed$/
    );
    expect(near.counts).toMatchObject({ gone: 1 });
    expect(would('2026-03-04').counts).toMatchObject({ overdue: 1 });
  });
});

describe('columns and days', () => {
  const query = (search: string) => readListQuery(new URLSearchParams(search));

  it('columns hold the open statuses and what is finished, each with its count', () => {
    add({ name: 'A' });
    add({ name: 'B', statusId: 2 });
    add({ name: 'C', statusId: FINISHED });
    const { columns } = columnsView(workspace.container, query('shape=columns'), viewer(), SEES_ALL);
    expect(
      columns.map(({ name, count, rows: cards }) => [name, count, cards.map((card) => card.name)])
    ).toEqual([
      ['To do', 1, ['A']],
      ['Under way', 1, ['B']],
      ['Finished', 1, ['C']]
    ]);
  });

  it('a month is drawn in the weeks of whose tasks are asked for, with their closed days', () => {
    const { Salim } = workspace.people;
    add({ name: 'Reef', ownerId: Salim, dueDate: '2026-03-06' });
    add({ name: 'Last of February', ownerId: Salim, dueDate: '2026-02-26' });
    const month = (owner: string) =>
      daysView(
        workspace.container,
        query(`shape=days${owner}`),
        { month: '2026-03', week: false },
        viewer(),
        SEES_ALL
      );
    // Sunday to Thursday in Muscat: the week starts on Sunday, Friday and Saturday are closed.
    const muscat = month(`&owner=${Salim}`);
    expect(muscat).toMatchObject({
      title: 'March 2026',
      before: '2026-02',
      after: '2026-04',
      whose: 'Salim'
    });
    expect(muscat.days[0]).toMatchObject({ date: '2026-03-01', weekday: 6, closed: false });
    expect(muscat.days.filter(({ closed }) => closed).map(({ weekday }) => weekday)).toEqual(
      Array(muscat.days.length / 7)
        .fill([4, 5])
        .flat()
    );
    expect(muscat.days.find(({ date }) => date === '2026-03-06')).toMatchObject({
      isToday: false,
      closed: true,
      rows: [{ name: 'Reef' }]
    });
    // Monday to Friday in Lisbon: the first week begins in February, which is shown and set apart.
    const lisbon = month('');
    expect(lisbon.days[0]).toMatchObject({ date: '2026-02-23', weekday: 0, outside: true });
    expect(lisbon.days.find(({ date }) => date === '2026-02-26')?.rows).toMatchObject([
      { name: 'Last of February' }
    ]);
    expect(lisbon.days.find(({ isToday }) => isToday)?.date).toBe('2026-03-05');
    expect(lisbon.days.length % 7).toBe(0);
  });

  it.each(['2026-13', 'x', '', '1800-01'])('“%s” is no month, and the present one is shown', (text) => {
    expect(
      daysView(workspace.container, query('shape=days'), { month: text, week: false }, viewer(), SEES_ALL)
        .month
    ).toBe('2026-03');
  });
});

describe('due dates of the list', () => {
  it.each([
    ['due=today', ['today']],
    ['due=tomorrow', ['tomorrow']],
    // Thursday in Lisbon: Friday, Saturday and Sunday are the rest of its week.
    ['due=week', ['today', 'tomorrow', 'sunday']],
    ['due=7', ['today', 'tomorrow', 'sunday', 'in a week']],
    ['due=past', ['yesterday']],
    ['due=none', ['undated']],
    ['from=2026-03-08&until=2026-03-12', ['sunday', 'in a week']]
  ])('%s', (search, expected) => {
    const dates = {
      yesterday: '2026-03-04',
      today: '2026-03-05',
      tomorrow: '2026-03-06',
      sunday: '2026-03-08',
      'in a week': '2026-03-12',
      later: '2026-05-01',
      undated: null
    };
    for (const [name, dueDate] of Object.entries(dates)) add({ name, dueDate });
    const query = readListQuery(new URLSearchParams(search));
    const { rows: found } = workspace.container.taskLists.page(query, null, viewer(), SEES_ALL);
    expect(found.map(({ name }) => name)).toEqual(expected);
    expect(workspace.container.taskLists.count(query, viewer(), SEES_ALL)).toBe(expected.length);
  });
});

describe('acts on many', () => {
  const apply = (ids: number[], change: BulkChange) =>
    workspace.container.bulk.apply(workspace.coordinator, { ids, query: '', change }, viewer(), SEES_ALL);

  it('each does what it says, and is taken back whole', () => {
    const ids = [add({ name: 'A', dueDate: '2026-03-10', tags: ['old'] }), add({ name: 'B' })];
    const { Salim } = workspace.people;
    const states: [BulkChange, (id: number) => unknown, unknown][] = [
      [{ act: 'due', date: '2026-04-01' }, (id) => task(id).due?.date, '2026-04-01'],
      [{ act: 'owner', id: Salim! }, (id) => task(id).ownerId, Salim],
      [{ act: 'status', id: 2 }, (id) => task(id).status, 'Under way'],
      [{ act: 'priority', priority: 'high' }, (id) => task(id).priority, 'high'],
      [{ act: 'project', id: workspace.project }, (id) => task(id).projectId, workspace.project],
      [{ act: 'tag', name: 'new' }, (id) => tagsOf(id).includes('new'), true],
      [{ act: 'untag', name: 'OLD' }, (id) => tagsOf(id).includes('old'), false],
      [{ act: 'park', date: '2026-04-02' }, (id) => task(id).setAside, 'parked'],
      [{ act: 'archive' }, (id) => task(id).setAside, 'archived'],
      [{ act: 'bin' }, (id) => task(id).setAside, 'binned']
    ];
    const tagsOf = (id: number) => workspace.container.stores.taskParts.tags(id).map(({ name }) => name);
    const before = ids.map(rows);
    for (const [change, read, expected] of states) {
      const { changeId } = apply(ids, change);
      expect([change.act, ids.map(read)]).toEqual([change.act, [expected, expected]]);
      workspace.container.committer.undo(changeId, workspace.people.Ines!);
      expect(ids.map(rows)).toEqual(before);
    }
  });

  it('refuses nothing, too many, and a status that is gone', () => {
    const id = add();
    expect(() => apply([], { act: 'archive' })).toThrow(/No task is chosen/);
    expect(() =>
      apply(
        Array.from({ length: 10_001 }, (_, i) => i + 1),
        { act: 'archive' }
      )
    ).toThrow(/At most 10000/);
    expect(() => apply([id], { act: 'status', id: 99 })).toThrow(/status was not found/);
    expect(() => apply([id], { act: 'priority', priority: 'ordinary' })).toThrow(/No task is chosen/);
  });

  it('takes all that a list holds, seen or not', () => {
    for (let i = 0; i < 120; i++) add({ name: `Reef ${i}` });
    add({ name: 'Quay' });
    const query = readListQuery(new URLSearchParams('group=status'));
    const { total, groups } = workspace.container.taskLists.totals(query, viewer(), SEES_ALL);
    expect([total, groups]).toEqual([121, [{ key: '1', label: 'To do', count: 121 }]]);
    const { result } = workspace.container.bulk.apply(
      workspace.coordinator,
      { ids: null, query: 'text=reef', change: { act: 'archive' } },
      viewer(),
      SEES_ALL
    );
    expect(result.changed).toBe(120);
  });
});
