import { afterEach, beforeEach, expect, it } from 'vitest';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';
import { tasksIn } from '../support/tasks.ts';

let workspace: TestWorkspace;
const { add, edit, moveTo, tick, viewer } = tasksIn(() => workspace);
const tower = () => workspace.container.tower.day(viewer());

// A Monday.
beforeEach(async () => (workspace = await openWorkspace('2026-03-02T09:00:00Z')));
afterEach(() => workspace.close());

it('overdue by age: in bands of working days, those of the tally together', () => {
  const { people } = workspace;
  // Fri 27 Feb, Thu 26, Mon 23, Mon 16, Fri 13 for somebody who works from Monday to Friday: 1, 2, 5, 10 and 11 working days.
  for (const dueDate of ['2026-02-27', '2026-02-26', '2026-02-23', '2026-02-16', '2026-02-13'])
    add({ ownerId: people.Ines!, dueDate });
  expect(tower().byAge).toEqual([
    { band: 'under 1', count: 0 },
    { band: '1–2', count: 2 },
    { band: '3–5', count: 1 },
    { band: '6–10', count: 1 },
    { band: 'over 10', count: 1 }
  ]);
  expect(tower().overdue.count).toBe(5);
  // Each band leads to its list.
  const { taskLists } = workspace.container;
  const sight = { personId: people.Ines!, all: true, reports: [] };
  for (const { band, count } of tower().byAge) {
    const query = taskLists.read(new URLSearchParams({ show: 'overdue', band }));
    expect(taskLists.count(query, viewer(), sight)).toBe(count);
  }
});

it('who is stuck, since when by working days; finished work is not', async () => {
  const { container, coordinator, people } = workspace;
  const { result: waiting } = container.committer.commit(coordinator, 'status', (writer) =>
    writer.insert('status', { name: 'Waiting', phase: 'stuck on others', position: 9 })
  );
  const id = add({ ownerId: people.Nora!, dueDate: '2026-04-01' });
  edit(id, { statusId: waiting });
  await moveTo('2026-03-09T15:00:00Z');
  add({ ownerId: people.Nora!, statusId: waiting });
  // From Monday to Monday: Tuesday, Wednesday, Thursday, Friday, Monday.
  expect(tower().stuck).toEqual([{ personId: people.Nora, name: 'Nora', count: 2, workingDays: 5 }]);
  const { taskLists } = container;
  const query = taskLists.read(new URLSearchParams(`show=stuck&owner=${people.Nora}`));
  const sight = { personId: people.Ines!, all: true, reports: [] };
  expect(taskLists.totals(query, viewer(), sight).total).toBe(2);
});

it('slipping again: what was moved later twice or more in this round, the worst first', () => {
  const once = add({ name: 'Once', dueDate: '2026-03-05' });
  const twice = add({ name: 'Twice', dueDate: '2026-03-05' });
  const often = add({ name: 'Often', dueDate: '2026-03-05' });
  edit(once, { dueDate: '2026-03-06' });
  for (const dueDate of ['2026-03-06', '2026-03-09']) edit(twice, { dueDate });
  for (const dueDate of ['2026-03-06', '2026-03-05', '2026-03-09', '2026-03-10']) edit(often, { dueDate });
  const { count, tasks } = tower().slipping;
  expect(count).toBe(2);
  expect(tasks.map(({ name, slips }) => [name, slips])).toEqual([
    ['Often', 3],
    ['Twice', 2]
  ]);
});

it('days that are too loud: above the most that somebody set, on their own date', async () => {
  const { container, coordinator, people } = workspace;
  ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '09:00' })]));
  for (let i = 0; i < 4; i++)
    container.tasks.add(coordinator, taskInput({ ownerId: people.Tess!, dueDate: '2026-03-06' }));
  await tick();
  expect(tower().loud).toEqual([]);
  const quiet = { quiet: [], digestDue: null, digestOverdue: null };
  container.people.setQuiet(coordinator, people.Tess!, { ...quiet, dailyCap: 3 });
  await tick();
  expect(tower().loud).toEqual([{ personId: people.Tess, name: 'Tess', day: 'Thu 5 Mar', count: 4, cap: 3 }]);
});

it('a kept list may be counted: the tally is what the list holds, and goes with it', async () => {
  const { container, people, coordinator } = workspace;
  const { savedLists, taskLists, source, stores } = container;
  add({ priority: 'pressing', ownerId: people.Ines!, dueDate: '2026-03-20' });
  add({ priority: 'pressing', ownerId: people.Nora! });
  add({ priority: 'low' });
  const sight = { personId: people.Ines!, all: true, reports: [] };
  const tallies = (id = people.Ines!) => taskLists.tallies(id, viewer(), sight);
  const input = { name: 'Pressing', query: 'priority=pressing', shared: false, counted: true };
  const { result: list } = savedLists.save(coordinator, input);
  expect(tallies()).toEqual([{ id: list, name: 'Pressing', query: 'priority=pressing', count: 2 }]);
  const page = taskLists.page(
    taskLists.read(new URLSearchParams('priority=pressing')),
    null,
    viewer(),
    sight
  );
  expect(page.rows).toHaveLength(2);
  // Somebody else has it only when everybody has.
  expect(tallies(people.Nora)).toEqual([]);
  expect(() => savedLists.count({ personId: people.Nora!, source: 'person' }, list, false)).toThrow(
    'This saved list was not found.'
  );
  // Counting it moves no ring, so nothing is planned anew.
  await container.engine.tick();
  const before = stores.plan.staleCount();
  savedLists.count(coordinator, list, false);
  expect(tallies()).toEqual([]);
  expect(stores.plan.staleCount()).toBe(before);
  savedLists.count(coordinator, list, true);
  savedLists.drop(coordinator, list);
  expect(tallies()).toEqual([]);
  expect(source.facts.lists.size).toBe(0);
});
