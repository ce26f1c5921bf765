import type { ChoiceView } from '$lib/view/desk.ts';

/** What was decided of a task: an act of the Desk with what it takes. */
export interface Decision {
  act: string;
  body: Record<string, unknown>;
}

/** What a choice asks for before it is done; null where it is done at once. */
export function asksMore({ to, day, asksDue, asksAsDue }: ChoiceView): 'day' | 'due' | 'word' | null {
  if (to === 'back') return 'word';
  if (to === 'park' || (to === 'day' && day === null)) return 'day';
  return asksDue || asksAsDue ? 'due' : null;
}
