import { makesTasks } from '../rule/step-model.ts';
import { list } from '../rule/words/list.ts';
import { DEEPEST_MADE } from '../rule/watch.ts';
import type { Lint, LintContext } from './model.ts';

/** A rule that makes tasks of what others made: how deep that goes, and with which of them. */
export function followUps({ definition, others }: LintContext): Lint[] {
  if (!definition.watch.made || !makesTasks(definition.steps)) return [];
  const makers = others.filter((other) => makesTasks(other.definition.steps));
  if (makers.length === 0) return [];
  const names = list(makers.map(({ rule }) => `“${rule.name}”`));
  const back = makers.some((other) => other.definition.watch.made);
  const deep = back ? DEEPEST_MADE : 2;
  const message = `It creates follow-ups of follow-ups made by ${names}. One overdue task can lead to ${deep} of them, one after another.`;
  return [{ code: 'follow-ups of follow-ups', part: 'do', message, mend: null }];
}
