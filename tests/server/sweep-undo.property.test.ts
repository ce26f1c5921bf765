import fc from 'fast-check';
import { expect, it } from 'vitest';
import { blankSweep, type SweepActName, type SweepDefinition } from '../../src/lib/core/sweep/model.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { drawn } from '../support/drawn.ts';
import { FINISHED } from '../support/tasks.ts';
import { openWorkspace, taskInput, type TestWorkspace } from '../support/workspace.ts';

/**
 * A sweep that is taken back after people have edited other fields leaves what the same edits alone would have left, journal aside. After
 * edits of the very fields that it wrote, each of what belongs together is as it was before the sweep, or as people have left it.
 */
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
    if (i % 3 === 1) container.taskActs.park(coordinator, id, '2026-03-05');
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

/** Edits of what sweeps write: dates, statuses, places, owners. */
type Move = { task: number } & (
  | { due: string; time: string | null }
  | { status: number }
  | { owner: string | null }
  | { park: string }
  | { back: true }
);
const moves = fc.array(
  fc.tuple(
    fc.record({ task: fc.nat(TASKS - 1) }),
    fc.oneof(
      fc.record({
        due: fc.constantFrom('2026-03-03', '2026-03-05', '2026-03-20'),
        time: fc.constantFrom(null, '11:00')
      }),
      fc.record({ status: fc.integer({ min: 1, max: 4 }) }),
      fc.record({ owner: fc.constantFrom('Meera', 'Salim', null) }),
      fc.record({ park: fc.constant('2026-04-01') }),
      fc.record({ back: fc.constant(true as const) })
    )
  ),
  { maxLength: 8 }
);

const FACETS = {
  due: ['due_date', 'due_time', 'due_zone'],
  status: ['status_id', 'finished_at'],
  place: ['set_aside', 'set_aside_at', 'review_date'],
  owner: ['owner_id', 'former_owner_id', 'assigned_at']
};
type Facet = keyof typeof FACETS;
/** Bringing back changes both at once: they go back together. */
const AT_ONCE: Partial<Record<SweepActName, readonly Facet[]>> = { 'bring back': ['place', 'owner'] };

type TaskRow = Record<string, unknown> & { id: number };
const rowsOf = ({ container: { db } }: TestWorkspace) =>
  db.prepare('SELECT * FROM task ORDER BY id').all() as TaskRow[];
const facetOf = (row: TaskRow, facet: Facet) => JSON.stringify(FACETS[facet].map((column) => row[column]));

function move({ container, coordinator, people }: TestWorkspace, id: number, one: Move): void {
  container.clock.set(container.clock.now() + 60_000, false);
  const { setAside } = container.stores.tasks.byId(id)!;
  if ('park' in one) container.taskActs.park(coordinator, id, one.park);
  else if ('back' in one) container.taskActs.restore(coordinator, id);
  else if ('due' in one) container.tasks.edit(coordinator, id, { dueDate: one.due, dueTime: one.time });
  else if ('status' in one) container.tasks.edit(coordinator, id, { statusId: one.status });
  // What is parked is nobody's until it comes back.
  else if (setAside !== 'parked')
    container.tasks.edit(coordinator, id, { ownerId: one.owner === null ? null : people[one.owner]! });
}

/** What no undo may leave behind. */
function expectWhole({ container: { db } }: TestWorkspace): void {
  const broken = (sql: string) => db.prepare(sql).all();
  expect(broken(`SELECT id FROM task WHERE set_aside = 'parked' AND owner_id IS NOT NULL`)).toEqual([]);
  expect(
    broken(
      `SELECT t.id FROM task t WHERE (SELECT group_concat(status_id) FROM status_span p WHERE p.task_id = t.id AND p.until_at IS NULL)
       IS NOT CAST(t.status_id AS TEXT)`
    )
  ).toEqual([]);
  expect(
    broken(
      `SELECT t.id FROM task t JOIN status s ON s.id = t.status_id
       WHERE (s.phase IN ('finished', 'closed')) <> (t.finished_at IS NOT NULL)`
    )
  ).toEqual([]);
}

async function sweepOnce({ container, coordinator }: TestWorkspace, act: SweepActName): Promise<number> {
  const definition = { ...blankSweep(act), ...SWEEPS[act] };
  const id = container.sweeps.insert(coordinator, { name: act, description: '', definition }).result;
  const runId = container.sweeps.look(id);
  await container.engine.tick();
  container.sweeps.run(coordinator, runId, true);
  await container.engine.tick();
  expect(container.stores.sweepRuns.history(0)[0]?.done).toBe(TASKS / 3);
  return runId;
}

it('a sweep, edits of what it wrote and its undo leave what was, or what people have made of it', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...(Object.keys(SWEEPS) as SweepActName[])),
      moves.map((all) => all.map(([where, what]) => ({ ...where, ...what }))),
      async (act, all) => {
        const workspace = await openWorkspace('2026-03-05T00:30:00Z');
        try {
          const ids = layOut(workspace);
          const before = rowsOf(workspace);
          const runId = await sweepOnce(workspace, act);
          const swept = rowsOf(workspace);
          const edited = new Set<string>();
          for (const one of all) {
            const was = rowsOf(workspace);
            move(workspace, ids[one.task]!, one);
            for (const [i, row] of rowsOf(workspace).entries())
              for (const facet of Object.keys(FACETS) as Facet[])
                if (facetOf(row, facet) !== facetOf(was[i]!, facet)) edited.add(`${i}/${facet}`);
          }
          const left = rowsOf(workspace);
          workspace.container.sweeps.undo(workspace.coordinator, runId);
          await workspace.container.engine.tick();
          const kept = new Set<number>();
          for (const [i, row] of rowsOf(workspace).entries())
            for (const facet of Object.keys(FACETS) as Facet[]) {
              const joined = AT_ONCE[act]?.includes(facet) ? AT_ONCE[act] : [facet];
              const stays = joined.some((other) => edited.has(`${i}/${other}`));
              expect(facetOf(row, facet)).toBe(facetOf((stays ? left : before)[i]!, facet));
              if (stays && facetOf(before[i]!, facet) !== facetOf(swept[i]!, facet)) kept.add(row.id);
            }
          expectWhole(workspace);
          const listed = workspace.container.stores.sweepRuns.rows(runId, ['kept'], 0, TASKS);
          expect(new Set(listed.map(({ taskId }) => taskId))).toEqual(kept);
        } finally {
          await workspace.close();
        }
      }
    ),
    drawn(25)
  );
});

it('a sweep, edits of other fields and its undo leave what the edits alone leave', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...(Object.keys(SWEEPS) as SweepActName[])),
      edits.map((all) => all.map(([where, what]) => ({ ...where, ...what }))),
      async (act, all) => {
        const at = '2026-03-05T00:30:00Z';
        const [swept, plain] = [await openWorkspace(at), await openWorkspace(at)];
        try {
          const [ids, others] = [layOut(swept), layOut(plain)];
          const { container, coordinator } = swept;
          const runId = await sweepOnce(swept, act);
          await edit(swept, ids, all);
          container.sweeps.undo(coordinator, runId);
          await container.engine.tick();
          await edit(plain, others, all);
          await plain.container.engine.tick();
          expect(contents(swept)).toEqual(contents(plain));
        } finally {
          await Promise.all([swept.close(), plain.close()]);
        }
      }
    ),
    {
      ...drawn(25),
      // So late that what was parked until then comes back by itself.
      examples: [['close', [{ task: 0, minutes: 510, comment: 'seen' }]]]
    }
  );
});
