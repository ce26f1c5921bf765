import { closedDayWords } from '$lib/core/rule/words/choice-words.ts';
import type { Option } from '$lib/ui/pick/option.ts';

/** What a schedule can do on a day that is closed, as it is chosen. */
export const CLOSED_SCHEDULE_OPTIONS = (['skip', 'earlier', 'later', 'as-is'] as const).map(
  (value): Option<typeof value> => ({ value, label: closedDayWords(value) })
);
