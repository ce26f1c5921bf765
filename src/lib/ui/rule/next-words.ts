import { many } from '$lib/core/many.ts';
import type { RuleDefinition } from '$lib/core/rule/model.ts';
import { allSteps } from '$lib/core/rule/step-model.ts';
import type { RuleForecastView } from '$lib/view/models.ts';

/** What comes of a rule in the next four weeks, in a line: when it sends next, and how much it changes. */
export function nextWords(
  { next, acts }: Pick<RuleForecastView, 'next' | 'acts'>,
  { steps }: Pick<RuleDefinition, 'steps'>
): string {
  const kinds = new Set(allSteps(steps).map(({ kind }) => kind));
  const sent = next.length > 0 ? `Next sent: ${next.join('; ')}.` : 'Sends nothing in the next four weeks.';
  const changed = `Makes ${acts === 0 ? 'no change' : many(acts, 'change')} in the next four weeks.`;
  return [kinds.has('tell') || !kinds.has('do') ? sent : '', kinds.has('do') ? changed : '']
    .filter(Boolean)
    .join(' ');
}
