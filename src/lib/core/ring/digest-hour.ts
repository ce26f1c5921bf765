import type { Leave } from '../calendar/leave.ts';
import type { WorkingDays } from '../calendar/working-days.ts';
import { instantOnWall } from '../time/instant.ts';
import type { MinuteOfDay } from '../time/time-of-day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { LONGEST_HOLD_DAYS } from './hold.ts';

/** Whose digest it is. */
export interface DigestReader {
  zone: Zone;
  calendar: { days: WorkingDays };
  leave: Leave;
}

/**
 * The first digest hour of a person strictly after an instant: at that time of their day, on their own working days, none while they are on
 * leave. NaN when none lies within 370 days.
 */
export function nextDigestHour(after: InstantMs, minute: MinuteOfDay, reader: DigestReader): InstantMs {
  const { zone, calendar, leave } = reader;
  const today = zone.dayOf(after);
  for (let day = today; day <= today + LONGEST_HOLD_DAYS; day++) {
    if (!calendar.days.isWorking(day)) continue;
    const at = instantOnWall(day, minute, zone);
    if (at > after && !leave.covers(at)) return at;
  }
  return NaN;
}
