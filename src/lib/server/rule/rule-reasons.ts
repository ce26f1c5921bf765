import { leadWords } from '../../core/rule/words/lead-words.ts';
import { ifComputable } from '../../core/if-computable.ts';
import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { leadHolds } from '../../core/forecast/facts/lead-filter.ts';
import { isReachable, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { conditionWords, type Names } from '../../core/rule/words/condition-words.ts';
import { folded } from '../../core/rule/compile-condition.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import { PHASES, PRIORITIES } from '../../core/task/model.ts';
import type { CompiledWatch } from '../../core/rule/watch.ts';
import { shortDay } from '../../core/time/format.ts';
import type { RuleReasonView } from '../../view/task-detail.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import { recordNames } from '../engine/names.ts';

/** Every rule that is on: whether it rings for a task, and why or why not. */
export function appliesTo(
  app: { source: FactsSource; stores: Stores },
  task: TaskFacts,
  now: number,
  nowDay: number
): RuleReasonView[] {
  const { planner } = app.source;
  const names = recordNames(app.stores);
  return app.source
    .liveRules()
    .filter(({ facts }) => !facts.ofTask)
    .map(({ facts: rule }) => {
      const { id, name } = rule;
      return ifComputable(
        (): RuleReasonView => {
          const against = reasonsAgainst(planner, rule, task, now, names);
          const applies = against.length === 0;
          const reasons = applies ? rings(planner, rule, task, now, nowDay, names) : against;
          return { id, name, applies, reasons };
        },
        ({ message }) => ({
          id,
          name,
          applies: false,
          broken: message,
          reasons: [`it cannot be computed for this task: ${message}`]
        })
      );
    });
}

/** Why a rule is silent for a task, as far as the task tells; empty when it watches it. */
export function reasonsAgainst(
  planner: Planner,
  rule: RuleFacts,
  task: TaskFacts,
  now: number,
  names: Names
): string[] {
  if (!planner.watches(rule, task, now))
    return [...outside(rule.watch, task), ...untrue(planner, rule, task, now, names)];
  return planner.stopped(rule, task, now) ? ['the rule has ended for this task'] : [];
}

/** Each test of a Watch that a task does not pass. */
function outside(watch: CompiledWatch, task: TaskFacts): string[] {
  const has = <T>(mask: number, all: readonly T[], value: T) => (mask & (1 << all.indexOf(value))) !== 0;
  const reasons: string[] = [];
  if (task.aside && !watch.seen.has(task.aside)) reasons.push(ASIDE_WORDS[task.aside]);
  if (!has(watch.phaseMask, PHASES, task.phase)) reasons.push(`it is ${task.phase}`);
  if (!has(watch.priorityMask, PRIORITIES, task.priority)) reasons.push(`its priority is ${task.priority}`);
  if (watch.projects && (task.projectId === null || !watch.projects.has(task.projectId)))
    reasons.push(task.projectId === null ? 'it has no project' : 'the rule does not watch its project');
  if (task.private && task.ownerId !== watch.keeperId)
    reasons.push('it is private, and the rule has another keeper');
  if (task.made?.ruleIds[0] === watch.ruleId) reasons.push('this rule created it');
  else if (task.made && task.made.ruleIds.length > watch.madeDepth)
    reasons.push(
      watch.madeDepth === 0
        ? 'a rule created it, and this rule does not watch follow-ups'
        : 'it is a follow-up of follow-ups, the deepest level'
    );
  return reasons;
}

const ASIDE_WORDS = {
  parked: 'it is parked',
  archived: 'it is archived',
  binned: 'it is in the bin',
  'called off': 'its project is not open'
};

/** What of tags and condition a task does not pass. */
function untrue(
  planner: Planner,
  { watch, id }: RuleFacts,
  task: TaskFacts,
  now: number,
  names: Names
): string[] {
  if (!watch.asks) return [];
  const subject = planner.subject(task, now, id);
  const reasons: string[] = [];
  if (watch.tags && !subject.details.tags.some((tag) => watch.tags!.has(folded(tag))))
    reasons.push('its tags do not match');
  const failing = watch.condition?.failing(subject);
  if (failing) reasons.push(`fails: ${conditionWords(failing, names)}`);
  return reasons;
}

/** What each lead of a rule comes to for a task that it watches. */
export function rings(
  planner: Planner,
  rule: RuleFacts,
  task: TaskFacts,
  now: number,
  nowDay: number,
  names: Names
): string[] {
  const atOnce = rule.leads.filter(({ anchor }) => anchor === null).map(({ lead }) => leadWords(lead, names));
  const { leading } = rule.program;
  if (leading.length > 0 && planner.audience.everybody(rule, task).length === 0)
    return [
      leading.some(({ single }) => single === 'manager') && task.ownerId !== null
        ? 'its owner has no manager, so nobody is told'
        : 'it has no owner, so nobody is told'
    ];
  const told = leading.flatMap((tell) =>
    [...planner.audience.recipients(rule, tell, task)].map((person) => ({
      person,
      leads: planner.audience.leadsFor(rule, tell, task, person)
    }))
  );
  // Several people may have the same to be said of them.
  const reasons = told.flatMap(({ person, leads }) => {
    if (!isReachable(person)) return [`${person.name} cannot be reached`];
    return leads.map((lead) => {
      const words = leadWords(lead.lead, names);
      if (!leadHolds(lead, task, planner.facts)) return `${words}: limited to other tasks`;
      if (!planner.anchor(lead, task)) return `${words}: no such date`;
      const { instant } = planner.ring(lead, task, person);
      if (Number.isNaN(instant)) return `${words}: skipped, closed day`;
      const on = shortDay(person.zone.dayOf(instant), nowDay);
      return instant > now ? `${words}: ${on}, to ${person.name}` : `${words}: ${on}, past`;
    });
  });
  return [...new Set([...reasons, ...atOnce])];
}
