import { afterEach, beforeEach, expect, it } from 'vitest';
import { starters } from '../../src/lib/core/rule/starters/starters.ts';
import { FINISHED, tasksIn } from '../support/tasks.ts';
import { openWorkspace, ruleOn, type TestWorkspace } from '../support/workspace.ts';

/** Acts by hand on many tasks, as the starters make them: a project that is called off and brought back, late work re-dated. Thu 5 March 2026. */
let workspace: TestWorkspace;
const { add, task, tick } = tasksIn(() => workspace);

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00:00Z');
  workspace.container.committer.commit(workspace.coordinator, 'a fourth status', (writer) =>
    writer.insert('status', { name: 'Closed', phase: 'closed', position: 3 })
  );
});
afterEach(() => workspace.close());

function starter(key: string): number {
  const statuses = workspace.container.stores.projects.statuses();
  const made = starters({
    statusIn: (phase) => statuses.find((status) => status.phase === phase)?.id ?? null,
    today: '2026-03-05',
    noticeTime: '09:00'
  });
  return ruleOn(workspace, made.find((one) => one.key === key)!.definition, key);
}
const own = (name: string, patch = {}) => add({ name, ownerId: workspace.people.Ines!, ...patch });

it('a project is called off, its open tasks alone, and brought back by one undo', async () => {
  const { container, coordinator, project } = workspace;
  const rule = starter('called-off');
  const open = [own('One', { projectId: project }), own('Two', { projectId: project })];
  const others = [own('Finished', { projectId: project, statusId: FINISHED }), own('Of another project')];
  await tick();
  const ids = [...open, others[0]!];
  const viewer = { zone: container.source.facts.workspace.zone, personId: coordinator.personId! };
  const said = container.handRings.previewOver(coordinator, rule, ids, viewer);
  expect(said).toMatchObject({ chosen: 3, tasks: 2, effect: { atOnce: { messages: 0 } } });
  const before = open.map((id) => task(id));
  const { changeId, result } = container.handRings.ringOver(coordinator, rule, ids);
  await tick();
  expect(result.found).toBe(2);
  expect(open.map((id) => task(id).phase)).toEqual(['closed', 'closed']);
  expect(others.map((id) => task(id).phase)).toEqual(['finished', 'waiting to start']);
  expect(container.stores.taskParts.tags(open[0]!).map(({ name }) => name)).toEqual(['called off']);
  container.committer.undo(changeId, coordinator.personId!);
  await tick();
  expect(open.map((id) => task(id))).toEqual(before);
  expect(container.stores.taskParts.tags(open[0]!)).toEqual([]);
});

it('everything chosen that is overdue and open is re-dated; each counts as a slip', async () => {
  const { container, coordinator } = workspace;
  const rule = starter('re-date-late');
  const late = own('Late', { dueDate: '2026-03-02' });
  const ahead = own('Ahead', { dueDate: '2026-03-20' });
  const done = own('Done', { dueDate: '2026-03-02', statusId: FINISHED });
  await tick();
  container.handRings.ringOver(coordinator, rule, [late, ahead, done]);
  await tick();
  expect([late, ahead, done].map((id) => task(id).due?.date)).toEqual([
    ...['2026-03-06', '2026-03-20', '2026-03-02']
  ]);
  expect(task(late).slips).toBe(1);
});

it('nothing to do is said, and what stands on projects has no button on a task', () => {
  const { container, coordinator } = workspace;
  const rule = starter('re-date-late');
  const ahead = own('Ahead', { dueDate: '2026-03-20' });
  expect(() => container.handRings.ringOver(coordinator, rule, [ahead])).toThrow();
  const viewer = { zone: container.source.facts.workspace.zone, personId: coordinator.personId! };
  expect(() => container.handRings.previewOver(coordinator, rule, [], viewer)).toThrow();
  expect(container.handRings.buttonsFor(container.stores.tasks.factsOf(ahead)!)).toEqual([]);
});
