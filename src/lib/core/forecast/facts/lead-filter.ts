import type { LeadFilter } from '../../rule/lead-model.ts';
import { folded } from '../../rule/compile-condition.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { Facts, TaskFacts } from './facts.ts';

/** Whether a lead holds for a task: priority, tags, groups of its owner. */
export function leadHolds({ lead: { only }, tags }: CompiledLead, task: TaskFacts, facts: Facts): boolean {
  return filterHolds(only, tags, task, facts);
}

/** @param tags folded names of the tags that it asks for */
export function filterHolds(
  only: LeadFilter | null,
  tags: ReadonlySet<string> | null,
  task: TaskFacts,
  facts: Facts
): boolean {
  if (!only) return true;
  if (only.priorities.length > 0 && !only.priorities.includes(task.priority)) return false;
  if (tags && !facts.detailsOf(task.id).tags.some((tag) => tags.has(folded(tag)))) return false;
  const owner = task.ownerId;
  return (
    only.groups.length === 0 ||
    (owner !== null && only.groups.some((group) => facts.groups.get(group)?.has(owner)))
  );
}
