import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { Facts, TaskFacts } from '../../core/forecast/facts/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import type { ForecastHistory, ForecastWindow } from '../../core/forecast/simulate/model.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';

/** What two rules that tell the same make of each other. */
export interface SaidBefore {
  /** Notices of other rules that are not sent because of this one, by rule id, the most first. */
  ofOthers: { ruleId: number; notices: number }[];
  /** Notices of this rule that are not sent because another has told the same. */
  own: number;
}

/**
 * What is not sent in a window because a rule and others tell one reader the same of a task within the hour (design 03, already told).
 * @param tasks those that the rule tells of
 * @param history of all of them together
 */
export function saidBefore(
  facts: Facts,
  rule: RuleFacts,
  others: readonly RuleFacts[],
  tasks: readonly TaskFacts[],
  window: ForecastWindow,
  history: ForecastHistory
): SaidBefore {
  const told = (rules: readonly RuleFacts[]) => forecast(facts, rules, tasks, window, history).notices;
  const alone = new Set<string>();
  for (const notice of told(others)) if (notice.unrung === null) alone.add(keyOf(notice));
  const ofOthers = new Map<number, number>();
  let own = 0;
  for (const notice of told([...others, rule])) {
    if (notice.unrung !== 'already told') continue;
    if (notice.ruleId === rule.id) own++;
    else if (alone.has(keyOf(notice))) ofOthers.set(notice.ruleId, (ofOthers.get(notice.ruleId) ?? 0) + 1);
  }
  return {
    ofOthers: [...ofOthers]
      .map(([ruleId, notices]) => ({ ruleId, notices }))
      .sort((a, b) => b.notices - a.notices || a.ruleId - b.ruleId),
    own
  };
}

function keyOf({ ruleId, leadId, ringAt, stepId, taskId, recipientId }: PlannedNotice): string {
  return [ruleId, leadId, ringAt, stepId, taskId, recipientId].join('/');
}
