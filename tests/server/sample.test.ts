import { afterEach, beforeEach, expect, it } from 'vitest';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T09:00:00Z');
});
afterEach(() => workspace.close());

it('sample tasks are laid in where there are none, around the working day of today, and go by one press, whatever was done to them', () => {
  const { container, coordinator } = workspace;
  expect(container.sample.view()).toBe('possible');
  container.sample.layIn(coordinator);
  expect(container.sample.view()).toBe('laid in');
  expect(container.sample.layIn(coordinator)).toBeNull();
  const tasks = container.db
    .prepare<[], { id: number; name: string; due_date: string | null; owner_id: number | null }>(
      'SELECT * FROM task'
    )
    .all();
  const due = (name: string) => tasks.find((task) => task.name.startsWith(name))?.due_date ?? null;
  // Thursday 5 March 2026: Tuesday, Wednesday, today, and the Thursday after.
  expect([due('Send the tide'), due('Replace the shackles'), due('Check the eyewash'), due('Clean')]).toEqual(
    ['2026-03-03', '2026-03-04', '2026-03-05', '2026-03-12']
  );
  expect(due('Write up')).toBeNull();
  expect(tasks.filter(({ owner_id }) => owner_id === null)).toHaveLength(1);
  container.tasks.edit(coordinator, tasks[0]!.id, { dueDate: '2026-03-20' });
  container.sample.remove(coordinator);
  expect(container.stores.tasks.count()).toBe(0);
  expect(container.stores.projects.all().map(({ name }) => name)).not.toContain('Sample: the gauges');
  expect(container.sample.view()).toBe('possible');
  expect(container.sample.remove(coordinator)).toBeNull();
});
