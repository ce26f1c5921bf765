import type { RuleFaultView } from '../../view/rules.ts';
import type { Stores } from '../store/all.ts';
import { NO_TASK } from '../store/rule-faults.ts';
import { nameFor } from '../../view/bell-view.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Tasks that are named. */
const NAMED = 3;

/** For how much of its work a rule that is on cannot be computed; null where it can be for all of it. */
export function faultsOfRule(
  { stores }: { stores: Stores },
  ruleId: number,
  viewer: Viewer
): RuleFaultView | null {
  const count = stores.ruleFaults.counts().get(ruleId) ?? 0;
  if (count === 0) return null;
  const first = stores.ruleFaults.ofRule(ruleId, NAMED);
  const ofItself = stores.ruleFaults.ofItself(ruleId);
  return {
    schedule: ofItself !== null,
    count: count - (ofItself === null ? 0 : 1),
    pending: stores.plan.isStale,
    tasks: first
      .filter(({ taskId }) => taskId !== NO_TASK)
      .flatMap(({ taskId }) => {
        const task = stores.tasks.byId(taskId);
        return task ? [{ id: taskId, name: nameFor(task, viewer) }] : [];
      }),
    message: first[0]!.message
  };
}
