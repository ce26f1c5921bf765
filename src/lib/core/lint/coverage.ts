import { agree, many } from '../many.ts';
import { partsOf, type Condition, type Test, isTest } from '../rule/condition.ts';
import { inScope } from '../rule/watch.ts';
import { isOpenWork } from '../forecast/facts/facts.ts';
import type { RuleFacts } from '../forecast/facts/compile-rule.ts';
import type { Lint, LintContext } from './model.ts';

/** The test of a status that must be one and no other, at the top of a Watch. */
export function statusTest(condition: Condition | null): Test | null {
  if (!condition) return null;
  const joined = partsOf(condition);
  const tests = joined ? (joined.how === 'all' ? joined.parts : []) : [condition];
  const found = tests.filter(isTest).find(({ field }) => field === 'status');
  return found?.op === 'is' ? found : null;
}

/** One status is tested where open work stands in others: those tasks are not seen. */
export function oneStatus({ definition, rule, tasks, planner, statuses }: LintContext): Lint[] {
  const test = statusTest(definition.watch.condition);
  if (!test) return [];
  const wanted = Number(test.value);
  const phase = planner.facts.statuses.get(wanted);
  // Whoever looks for finished work, or for what is stuck, means just that.
  if (phase === undefined || phase === 'finished' || phase === 'closed' || definition.watch.phases) return [];
  let others = 0;
  for (const task of tasks)
    if (isOpenWork(task) && inScope(rule.watch, task) && planner.facts.detailsOf(task.id).statusId !== wanted)
      others++;
  if (others === 0) return [];
  const name = statuses.find(({ id }) => id === wanted)?.name ?? 'that one';
  return [
    {
      code: 'one status of several',
      part: 'watch',
      message: `${many(others, 'open task is', 'open tasks are')} not covered: ${agree(others, 'its status is', 'their status is')} not “${name}”.`,
      mend: { does: 'open phases', words: 'watch all open tasks' }
    }
  ];
}

/** Whether a rule rings at some moment after the due date of what it watches. */
function ringsAfterDue({ leads }: RuleFacts): boolean {
  return leads.some(
    ({ lead, anchor, timing, rung }) =>
      lead.kind === 'schedule' ||
      (rung !== null && timing.n >= 0) ||
      (lead.kind === 'event' && lead.event === 'became overdue') ||
      (lead.kind === 'offset' && anchor === 'due' && (timing.n > 0 || lead.repeat !== null))
  );
}

/** Whoever is reminded before a date and never after it does not hear that the date went by. */
export function nothingAfterDue({ rule, watched, others }: LintContext): Lint[] {
  const before = rule.planned.some(
    ({ anchor, timing, rung }) => (anchor === 'due' || rung !== null) && timing.n <= 0
  );
  if (!before || ringsAfterDue(rule)) return [];
  const after = others.filter((other) => ringsAfterDue(other.rule));
  let count = 0;
  for (const task of watched)
    if (task.due && !task.register && !after.some((other) => inScope(other.rule.watch, task))) count++;
  if (count === 0) return [];
  return [
    {
      code: 'nothing after the due day',
      part: 'ring',
      message: `No rule rings after the due date for ${many(count, 'watched task')}.`,
      mend: { does: 'add overdue', words: 'add a ring time 1 working day after' }
    }
  ];
}
