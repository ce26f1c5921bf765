import { afterEach, beforeEach } from 'vitest';
import { blankSweep, type SweepDefinition, type SweepActName } from '../../src/lib/core/sweep/model.ts';
import type { SweepRowState } from '../../src/lib/server/store/sweep-runs.ts';
import { FINISHED, tasksIn } from './tasks.ts';
import { openWorkspace, type TestWorkspace } from './workspace.ts';

/** The workspace of the test under way. Ines keeps its sweeps: Lisbon, Monday to Friday, UTC in winter. */
export let workspace: TestWorkspace;
export const { add, edit, task, moveTo, tick, viewer } = tasksIn(() => workspace);

/** Each test of a file has a workspace of its own, on Thursday 5 March 2026 at 08:00 UTC, with a status of closed work. */
export function eachWithSweeps(): void {
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-05T08:00:00Z');
    workspace.container.digests.turn(workspace.coordinator, 1, 'off');
    workspace.container.committer.commit(workspace.coordinator, 'a fourth status', (writer) =>
      writer.insert('status', { name: 'Closed', phase: 'closed', position: 3 })
    );
  });
  afterEach(() => workspace.close());
}

export const WEDNESDAYS: SweepDefinition['when'] = {
  ...{ by: 'schedule', rrule: 'FREQ=WEEKLY;BYDAY=WE', start: '2026-03-04', time: '12:00' },
  ...{ zone: 'Europe/Lisbon', closedDay: 'as-is' }
};

export function sweep(act: SweepActName, patch: Partial<SweepDefinition> = {}, on = false): number {
  const { container, coordinator } = workspace;
  const definition = { ...blankSweep(act), ...patch };
  const id = container.sweeps.insert(coordinator, { name: act, description: '', definition }).result;
  if (on) container.sweeps.turn(coordinator, id, 'on');
  return id;
}
export const run = (id: number) => workspace.container.stores.sweepRuns.byId(id)!;
export const newest = () => workspace.container.stores.sweepRuns.newest(null, 1)[0]!;
export const rows = (runId: number, state: SweepRowState) =>
  workspace.container.stores.sweepRuns.rows(runId, [state], 0, 100).map(({ name, reason }) => reason ?? name);

/** Looks for a sweep and says yes to what it finds. */
export async function runNow(id: number): Promise<number> {
  const runId = workspace.container.sweeps.look(id);
  await tick();
  workspace.container.sweeps.run(workspace.coordinator, runId, true);
  await tick();
  return runId;
}
export async function undo(runId: number): Promise<void> {
  workspace.container.sweeps.undo(workspace.coordinator, runId);
  await tick();
}
export const slips = (id: number) =>
  (
    workspace.container.db.prepare('SELECT count(*) AS n FROM slip WHERE task_id = ?').get(id) as {
      n: number;
    }
  ).n;
export const openSpans = (id: number) =>
  workspace.container.db
    .prepare('SELECT status_id AS statusId FROM status_span WHERE task_id = ? AND until_at IS NULL')
    .all(id);
export const finish = (id: number) => edit(id, { statusId: FINISHED });
export const owned = (name: string, patch = {}) => add({ name, ownerId: workspace.people.Ines!, ...patch });
