import { ANCHORS } from '../../anchor/anchors.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import { isOpenWork, isReachable, type TaskFacts } from '../facts/facts.ts';
import type { Planner } from './planner.ts';

/** Watched tasks that a rule can never ring for, by the first reason that holds. */
export function silentTasks(
  planner: Planner,
  rule: RuleFacts,
  watched: readonly TaskFacts[]
): ReadonlyMap<string, TaskFacts[]> {
  const groups = new Map<string, TaskFacts[]>();
  for (const task of watched) {
    const reason = isOpenWork(task) ? silentReason(planner, rule, task) : null;
    if (!reason) continue;
    const group = groups.get(reason);
    if (group) group.push(task);
    else groups.set(reason, [task]);
  }
  return groups;
}

function silentReason(planner: Planner, rule: RuleFacts, task: TaskFacts): string | null {
  const anchors = new Set(rule.planned.map(({ anchor }) => anchor));
  const [only] = anchors;
  // What rings by a schedule, an event or by hand needs no date.
  if (!only || rule.planned.length < rule.leads.length) return null;
  if (!rule.planned.some((lead) => planner.anchor(lead, task)))
    return anchors.size > 1 ? 'no date' : ANCHORS[only].lacking;
  const { leading } = rule.program;
  if (leading.length === 0) return null;
  const told = planner.audience.everybody(rule, task);
  if (told.length === 0 && task.ownerId === null) return 'no owner';
  if (told.length === 0)
    return leading.every(({ single }) => single === 'manager') ? 'an owner without a manager' : 'nobody told';
  return told.some(isReachable) ? null : 'nobody with an address';
}
