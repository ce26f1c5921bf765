import type { SweepRowShown, SweepRowState, SweepRunStore } from '../store/sweep-runs.ts';

const AT_ONCE = 1_000;

/** Rows of a run in one state, by task, read page by page. */
export function* eachRow(runs: SweepRunStore, runId: number, state: SweepRowState): Generator<SweepRowShown> {
  for (let after = 0; ;) {
    const rows = runs.rows(runId, [state], after, AT_ONCE);
    yield* rows;
    if (rows.length < AT_ONCE) return;
    after = rows.at(-1)!.taskId;
  }
}
