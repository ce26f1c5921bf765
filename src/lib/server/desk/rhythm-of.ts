import { parseRecurrenceRule } from '../../core/recurrence/rrule.ts';
import type { StoredRhythm } from '../../core/task/model.ts';
import type { Rhythm } from '../../view/desk.ts';

/** How often a task comes back, as its row says. @param rhythm a `StoredRhythm` as JSON */
export function rhythmOf({ rhythm }: { rhythm: string | null }): Rhythm | null {
  if (rhythm === null) return null;
  const stored = JSON.parse(rhythm) as StoredRhythm;
  if ('rrule' in stored) {
    const { frequency, interval } = parseRecurrenceRule(stored.rrule);
    return (interval === 1 && OFTEN[frequency]) || 'other';
  }
  const { n, unit } = stored;
  if (unit === 'day' && n === 7) return 'weekly';
  return (n === 1 && OFTEN[unit]) || 'other';
}

/** What is called by a word of its own. */
const OFTEN: Readonly<Record<string, Rhythm>> = {
  ...{ DAILY: 'daily', WEEKLY: 'weekly', MONTHLY: 'monthly' },
  ...{ day: 'daily', workday: 'daily', week: 'weekly', month: 'monthly' }
};
