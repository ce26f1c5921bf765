import type { Unit } from '../ring/lead.ts';
import type { StoredRhythm } from '../task/model.ts';

const DAYS: Record<Unit, number> = {
  minute: 0,
  hour: 0,
  workminute: 0,
  workhour: 0,
  day: 1,
  workday: 1,
  week: 7,
  month: 28
};
const OF_FREQUENCY: Record<string, number> = { DAILY: 1, WEEKLY: 7, MONTHLY: 28, YEARLY: 365 };

/** At least how many days lie between two dates of a rhythm, by its unit or frequency (RFC 5545 §3.3.10): a month has 28 at least. */
export function rhythmDays(rhythm: StoredRhythm): number {
  if ('n' in rhythm) return rhythm.n * DAYS[rhythm.unit];
  const part = (name: string) => new RegExp(`(?:^|;)${name}=([^;]+)`, 'i').exec(rhythm.rrule)?.[1];
  const days = OF_FREQUENCY[part('FREQ')?.toUpperCase() ?? ''] ?? 0;
  // Several days of a week or month lie closer together than the period.
  const several = [part('BYDAY'), part('BYMONTHDAY')].some((list) => list?.includes(','));
  return several ? 1 : days * Number(part('INTERVAL') ?? 1);
}
