import type { PersonFacts } from '../forecast/facts/facts.ts';
import type { InstantMs } from '../time/zone.ts';

/** What has stood for more working days than this is not placed in time. */
export const UNPLACED_DAYS = 2;
/** Who has not looked at their Desk for so many working days does not look. */
export const UNLOOKED_DAYS = 10;

/** Working days of somebody after the date of an instant, up to and with the date of another, both where they are. */
export function daysSince(
  { zone, calendar }: Pick<PersonFacts, 'zone' | 'calendar'>,
  from: InstantMs,
  at: InstantMs
): number {
  return Math.max(0, calendar.days.count(zone.dayOf(from) + 1, zone.dayOf(at) + 1));
}
