import fc from 'fast-check';
import { expect, it } from 'vitest';
import { blankSweep, type SweepActName, type SweepDefinition } from '../../src/lib/core/sweep/model.ts';
import type { TaskInput } from '../../src/lib/server/schema/task.ts';
import { FINISHED } from '../support/tasks.ts';
import { openWorkspace, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** A sweep that is taken back after people have edited other fields leaves what the same edits alone would have left, journal aside. */
const TASKS = 6;
const WAIT = { n: 0, unit: 'day' as const };
const SWEEPS: Partial<Record<SweepActName, Partial<SweepDefinition>>> = {
  close: { wait: WAIT },
  archive: { wait: WAIT, act: { act: 'archive', after: 'finished' } },
  're-date': { wait: WAIT },
  'bring back': { wait: WAIT }
};

type Edit = { task: number; minutes: number } & (
  { comment: string } | { patch: Partial<TaskInput> } | { logged: number }
);
const edits = fc.array(
  fc.tuple(
    fc.record({ task: fc.nat(TASKS - 1), minutes: fc.integer({ min: 0, max: 90 }) }),
    fc.oneof(
      fc.record({ comment: fc.constantFrom('seen', 'later') }),
      fc.record({ logged: fc.integer({ min: 1, max: 60 }) }),
      fc.record({
        patch: fc.oneof(
          fc.record({ name: fc.constantFrom('Oil the winch', 'Grease the winch') }),
          fc.record({ description: fc.constantFrom('', 'by the pier') }),
          fc.record({ priority: fc.constantFrom('low' as const, 'high' as const) }),
          fc.record({ percent: fc.constantFrom(10, 90, null) }),
          fc.record({ tags: fc.subarray(['quay', 'winter', 'boat']) }),
          fc.record({ keep: fc.boolean() })
        )
      })
    )
  ),
  { maxLength: 8 }
);

/** Each test workspace is the same; the tasks stand in the four states that sweeps look at. */
function layOut({ container, coordinator, people }: TestWorkspace): number[] {
  container.committer.commit(coordinator, 'a fourth status', (writer) =>
    writer.insert('status', { name: 'Closed', phase: 'closed', position: 3 })
  );
  return Array.from({ length: TASKS }, (_, i) => {
    const name = `Task ${i}`;
    const ownerId = people.Ines!;
    if (i % 3 === 0)
      return container.tasks.add(coordinator, taskInput({ name, ownerId, statusId: FINISHED })).result;
    const id = container.tasks.add(coordinator, taskInput({ name, ownerId, dueDate: '2026-03-03' })).result;
    if (i % 3 === 1) container.taskActs.park(coordinator, id, '2026-03-04');
    return id;
  });
}

async function edit({ container, coordinator }: TestWorkspace, ids: number[], all: Edit[]): Promise<void> {
  for (const { task, minutes, ...what } of all) {
    container.clock.set(container.clock.now() + minutes * 60_000, false);
    if ('comment' in what) container.taskActs.comment(coordinator, ids[task]!, what.comment);
    else if ('logged' in what)
      container.taskActs.logTime(coordinator, ids[task]!, { minutes: what.logged, note: '' });
    else container.tasks.edit(coordinator, ids[task]!, what.patch);
  }
}

/** Everything of the tasks; rows that hang on them by what they say, since those that come back have other ids. */
function contents({ container: { db } }: TestWorkspace): Record<string, unknown> {
  const parts = ['slip', 'status_span', 'task_tag', 'comment', 'time_entry', 'co_owner', 'promise'];
  const rows = (table: string) =>
    (db.prepare(`SELECT * FROM ${table}`).all() as Record<string, unknown>[])
      .map(({ id: _, ...row }) => JSON.stringify(row))
      .sort();
  const tasks = db.prepare('SELECT * FROM task ORDER BY id').all();
  return { tasks, ...Object.fromEntries(parts.map((table) => [table, rows(table)])) };
}

it('a sweep, edits of other fields and its undo leave what the edits alone leave', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...(Object.keys(SWEEPS) as SweepActName[])),
      edits.map((all) => all.map(([where, what]) => ({ ...where, ...what }))),
      async (act, all) => {
        const at = '2026-03-05T08:00:00Z';
        const [swept, plain] = [await openWorkspace(at), await openWorkspace(at)];
        try {
          const [ids, others] = [layOut(swept), layOut(plain)];
          const { container, coordinator } = swept;
          const definition = { ...blankSweep(act), ...SWEEPS[act] };
          const id = container.sweeps.insert(coordinator, { name: act, description: '', definition }).result;
          const runId = container.sweeps.look(id);
          await container.engine.tick();
          container.sweeps.run(coordinator, runId, true);
          await container.engine.tick();
          const { done } = container.stores.sweepRuns.history(0)[0] ?? { done: 0 };
          expect(done).toBe(TASKS / 3);
          await edit(swept, ids, all);
          container.sweeps.undo(coordinator, runId);
          await container.engine.tick();
          await edit(plain, others, all);
          expect(contents(swept)).toEqual(contents(plain));
        } finally {
          await Promise.all([swept.close(), plain.close()]);
        }
      }
    ),
    { numRuns: Number(process.env.SWEEP_RUNS ?? 25) }
  );
});
