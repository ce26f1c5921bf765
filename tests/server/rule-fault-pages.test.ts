import { expect, it } from 'vitest';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { ruleList } from '../../src/lib/server/rule/rule-list.ts';
import { taskDetail } from '../../src/lib/server/task/task-views.ts';
import { add, anotherWorkspace, eachInAWorkspace, tick, workspace } from '../support/rules.ts';
import { SEES_ALL, lead, ruleOf, ruleOn } from '../support/workspace.ts';

/** One person whose calendar has no working time keeps no page from opening: what cannot be computed is said where it belongs. */
eachInAWorkspace();

it('stands at its rule, in the list, on the Bell tower and at the task, with how many and which', async () => {
  await anotherWorkspace('2026-01-05T07:00:00Z');
  const { container, coordinator, people } = workspace;
  const viewer = { zone: container.source.facts.workspace.zone, personId: people.Ines! };
  container.committer.commit(coordinator, 'no working time', (writer) => {
    const calendar_id = writer.insert('calendar', { name: 'Never', week: '{}' });
    writer.update('person', people.Nora!, { calendar_id });
  });
  const mine = add({ name: 'Mine', dueDate: '2026-01-08' });
  const hers = [1, 2].map((n) => add({ name: `Hers ${n}`, ownerId: people.Nora!, dueDate: '2026-01-08' }));
  const late = add({ name: 'Late', ownerId: people.Nora!, dueDate: '2026-01-02' });
  const soon = { field: 'due' as const, op: 'within the next working days' as const, value: 30 };
  const watching = (definition: RuleDefinition): RuleDefinition => ({
    ...definition,
    watch: { ...definition.watch, condition: soon }
  });
  const before = ruleOf([lead(-1, 'workday')]);
  const planned = ruleOn(workspace, before, 'A working day before');
  const tested = watching(ruleOf([lead(-1, 'day')]));
  const ruleId = ruleOn(workspace, tested, 'Soon');
  ruleOn(workspace, watching(ruleOf([offsetLead('up', 8, 'workhour', { anchor: 'ladder' })])), 'Ladder');
  await tick();

  const rows = ruleList(container, viewer);
  expect(rows.find(({ id }) => id === planned)!.faults).toMatchObject({
    ...{ schedule: false, count: 3 },
    tasks: [...hers, late].map((id) => ({ id, name: container.stores.tasks.byId(id)!.name })),
    message: 'The calendar has no working day near 2026-01-08. Give its week at least one working interval.'
  });
  const [first] = container.tower.view(viewer).uncomputed;
  expect(first).toMatchObject({ id: planned, name: 'A working day before', fault: { count: 3 } });

  // A forecast promises nothing there, and says for which tasks.
  const input = (definition: RuleDefinition) => ({ name: 'Rule', description: '', definition });
  const outlook = container.outlooks.ofRule(planned, input(before), viewer);
  expect(outlook.bells.map(({ taskId }) => taskId)).toEqual([mine]);
  expect(outlook.broken).toMatchObject([{ count: 3 }]);
  expect(outlook.broken[0]!.tasks.map(({ id }) => id).sort()).toEqual([...hers, late]);
  expect(container.outlooks.ofRule(ruleId, input(tested), viewer).broken.map(({ count }) => count)).toEqual([
    3
  ]);

  // The task says which rule does not ring for it, and the others why they do or do not.
  const task = taskDetail(container, container.stores.tasks.byId(hers[0]!)!, viewer, SEES_ALL);
  expect(task.rules.filter(({ broken }) => broken).map(({ name }) => name)).toEqual([
    'A working day before',
    'Soon',
    'Ladder'
  ]);
  expect(task.coming).toEqual([]);

  // What only looks at many tasks shows the others, and a sweep leaves those alone.
  expect(container.escalations.view({}, viewer).rows).toEqual([]);
  const digest = container.digests.preview(coordinator, 1, people.Nora!, container.clock.now());
  expect(digest.text).toContain('Hers 1');
  const sweep = { ...blankSweep('still needed'), wait: { n: 2, unit: 'workday' as const } };
  expect(container.sweeps.now(sweep, people.Ines!)).toMatchObject({ taken: 0 });
});
