import { afterEach, beforeEach, expect, it } from 'vitest';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bellsInShort, bellsOfTask } from '../../src/lib/server/task/task-bells.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:00:00Z');
});
afterEach(() => workspace.close());

it('a task that is chased every working day lists three of its bells, the last of its past, and counts every other', async () => {
  const { container, coordinator, people } = workspace;
  const { result: id } = container.tasks.add(
    coordinator,
    taskInput({ name: 'Renew it', ownerId: people.Ines!, dueDate: '2026-03-05' })
  );
  const daily = lead(1, 'workday', { repeat: { n: 1, unit: 'workday', most: 300 } });
  ruleOn(workspace, ruleOf([daily]));
  // Two weeks pass: it has been chased on each of their working days.
  await container.engine.moveClock(Date.parse('2026-03-19T12:00:00Z'));
  const whole = bellsOfTask(container, id, { zone: zoneNamed('Europe/Lisbon'), personId: 1 });
  const sent = whole.past.filter(({ became }) => became === 'sent');
  expect(sent.length).toBeGreaterThan(8);
  expect(whole.coming.length).toBeGreaterThan(200);
  const short = bellsInShort(whole, container.clock.now());
  expect(short.coming).toEqual(whole.coming.slice(0, 3));
  expect(short.further).toMatchObject([{ count: whole.coming.length - 3 }]);
  expect(short.past).toEqual(sent.slice(-6));
  expect(short.earlier).toEqual({ sent: sent.length - 6, silent: 0 });
  // What is in no row stands on the line, or is counted beyond it.
  const ticks = short.ticks.reduce((all, { atMs }) => all + atMs.length, 0);
  expect(ticks + short.beyond).toBe(sent.length - 6 + whole.coming.length - 3);
});
