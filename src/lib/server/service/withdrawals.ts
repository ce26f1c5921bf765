import { keepLeadIds } from '../../core/rule/lead-ids.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import type { Stores } from '../store/all.ts';

/** What waits and would be withdrawn. */
export interface Withdrawn {
  notices: number;
  runs: number;
  /** The first of them, in words. */
  listed: { taskId: number; task: string; person: string }[];
}

const LISTED = 8;

/**
 * What a rule that is turned off, or whose edited version becomes live, would withdraw of what waits. Runs under way keep their version,
 * and end only with the rule.
 * @param next the edited definition; null where the rule is turned off
 */
export function withdrawnByRule(stores: Stores, ruleId: number, next: RuleDefinition | null): Withdrawn {
  const rule = stores.rules.byId(ruleId);
  const live = rule?.liveVersion == null ? null : stores.rules.version(rule.liveVersion);
  const kept = next && live ? keepLeadIds(next.leads, live.definition.leads, () => '') : [];
  const leads = new Set(kept.filter(({ on }) => on).map(({ id }) => id));
  const notices = stores.notices
    .waiting()
    .filter((notice) => notice.ruleId === ruleId && (next === null || !leads.has(notice.leadId)));
  const runs = next === null ? stores.runs.waiting().filter((run) => run.ruleId === ruleId) : [];
  const listed = [
    ...notices.map(({ taskId, recipientId }) => ({ taskId, personId: recipientId as number | null })),
    ...runs.map(({ taskId }) => ({ taskId: taskId ?? 0, personId: null }))
  ].slice(0, LISTED);
  return {
    notices: notices.length,
    runs: runs.length,
    listed: listed.map(({ taskId, personId }) => ({
      taskId,
      task: stores.tasks.byId(taskId)?.name ?? 'a task that is gone',
      person:
        personId === null ? 'a run that waits' : (stores.people.byId(personId)?.name ?? 'somebody outside')
    }))
  };
}
