import { keepLeadIds } from '../../core/rule/lead-ids.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import type { Stores } from '../store/all.ts';

/** What waits and would be withdrawn. */
export interface Withdrawn {
  notices: number;
  /** The first of them, in words. */
  listed: { task: string; person: string }[];
}

const LISTED = 8;

/**
 * What a rule whose edited version becomes live would withdraw of what waits. Runs under way keep their version, and end only with the rule.
 * @param next the edited definition
 */
export function withdrawnByRule(stores: Stores, ruleId: number, next: RuleDefinition): Withdrawn {
  const rule = stores.rules.byId(ruleId);
  const live = rule?.liveVersion == null ? null : stores.rules.version(rule.liveVersion);
  const kept = live ? keepLeadIds(next.leads, live.definition.leads, () => '') : [];
  const leads = new Set(kept.filter(({ on }) => on).map(({ id }) => id));
  const notices = stores.notices
    .waiting()
    .filter((notice) => notice.ruleId === ruleId && !leads.has(notice.leadId));
  const listed = notices.slice(0, LISTED).map(({ taskId, recipientId }) => ({
    task: stores.tasks.byId(taskId)?.name ?? 'a removed task',
    person: stores.people.byId(recipientId)?.name ?? 'somebody outside'
  }));
  return { notices: notices.length, listed };
}
