import { partsOfDay, type Day } from '../time/day.ts';

/** From this month on dates of the next year are planned, and its holidays matter. */
const FIRST_MONTH = 10;

/**
 * The year for which a calendar that has days of its own has none yet: this one, from October on the next one too; null where
 * nothing is missing. A calendar that never had holidays misses none.
 * @param days the days that differ from its week, each with its ISO 8601 date
 * @param today in the zone of whoever reads it
 */
export function lackingYear(days: readonly { date: string }[], today: Day): string | null {
  if (days.length === 0) return null;
  const { year, month } = partsOfDay(today);
  const asked = month < FIRST_MONTH ? [year] : [year, year + 1];
  const lacking = asked.map(String).find((one) => !days.some(({ date }) => date.startsWith(one)));
  return lacking ?? null;
}
