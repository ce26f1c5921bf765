import { isReachable, leadsFor, type RuleFacts, type TaskFacts } from '../../core/forecast/facts.ts';
import type { Planner } from '../../core/forecast/planner.ts';
import { leadWords } from '../../core/rule/read-back.ts';
import { PHASES, PRIORITIES } from '../../core/rule/model.ts';
import { watches, type CompiledWatch } from '../../core/rule/watch.ts';
import { shortDay } from '../../core/time/format.ts';
import type { RuleReasonView } from '../../view/task-detail.ts';
import type { Container } from '../container.ts';

/** Every rule that is on: whether it rings for a task, and why or why not. */
export function appliesTo(app: Container, task: TaskFacts, now: number, nowDay: number): RuleReasonView[] {
  const { planner } = app.source;
  return app.source
    .liveRules()
    .filter(({ facts }) => !facts.ofTask)
    .map(({ facts: rule }) => {
      const against = watches(rule.watch, task) ? [] : outside(rule.watch, task);
      const applies = against.length === 0;
      return {
        id: rule.id,
        name: rule.name,
        applies,
        reasons: applies ? rings(planner, rule, task, now, nowDay) : against
      };
    });
}

/** Each test of a Watch that a task does not pass. */
function outside(watch: CompiledWatch, task: TaskFacts): string[] {
  const has = <T>(mask: number, all: readonly T[], value: T) => (mask & (1 << all.indexOf(value))) !== 0;
  const reasons: string[] = [];
  if (task.aside)
    reasons.push('it is not in the list: parked, archived, in the bin, or its project is not open');
  if (!has(watch.phaseMask, PHASES, task.phase)) reasons.push(`it is ${task.phase}`);
  if (!has(watch.priorityMask, PRIORITIES, task.priority)) reasons.push(`its priority is ${task.priority}`);
  if (watch.projects && (task.projectId === null || !watch.projects.has(task.projectId)))
    reasons.push(task.projectId === null ? 'it has no project' : 'the rule does not watch its project');
  if (task.private && task.ownerId !== watch.keeperId)
    reasons.push('it is private, and the rule is kept by somebody else');
  return reasons;
}

/** What each lead of a rule comes to for a task that it watches. */
function rings(planner: Planner, rule: RuleFacts, task: TaskFacts, now: number, nowDay: number): string[] {
  const told = [...planner.recipients(rule, task)];
  if (told.length === 0)
    return [
      rule.tell.to === 'manager' && task.ownerId !== null
        ? 'its owner has no manager, so nobody is told'
        : 'it has no owner, so nobody is told'
    ];
  // Several people may have the same to be said of them.
  const reasons = told.flatMap((person) => {
    if (!isReachable(person)) return [`${person.name} cannot be reached`];
    return leadsFor(rule, task, person.id).map((lead) => {
      const words = leadWords(lead.lead);
      if (!planner.anchor(lead, task)) return `${words}: the task lacks that date`;
      const { instant } = planner.ring(lead, task, person);
      if (Number.isNaN(instant)) return `${words}: the closed-day rule skips it`;
      const on = shortDay(person.zone.dayOf(instant), nowDay);
      return instant > now ? `${words}: ${on}, to ${person.name}` : `${words}: ${on}, past`;
    });
  });
  return [...new Set(reasons)];
}
