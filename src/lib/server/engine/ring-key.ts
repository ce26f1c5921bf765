import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { RingKey } from '../store/notices.ts';

/** The key of a ring of a lead for a task as it stands. */
export function ringKey(
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts,
  anchorValue: string,
  ordinal: number
): RingKey {
  return { ruleId: rule.id, leadId: lead.lead.id, taskId: task.id, anchorValue, round: task.round, ordinal };
}
