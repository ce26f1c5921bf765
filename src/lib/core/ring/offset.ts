import type { WorkingDays } from '../calendar/working-days.ts';
import { MS_PER_MINUTE, addMonths, type Day } from '../time/day.ts';
import type { InstantMs } from '../time/zone.ts';
import type { Unit } from './lead.ts';

/**
 * Step 2 on dates: n days, weeks, months or working days from a date; negative is before. Month ends clamp.
 * @throws CodedError `no-working-time`
 */
export function offsetDay(day: Day, n: number, unit: Unit, days: WorkingDays): Day {
  switch (unit) {
    case 'day':
      return day + n;
    case 'week':
      return day + 7 * n;
    case 'month':
      return n === 0 ? day : addMonths(day, n);
    case 'workday':
      return days.offset(day, n);
    default:
      throw new TypeError(`${unit} does not count on dates`);
  }
}

/** Step 2 on instants, for minutes and hours: elapsed time, whatever the clocks do meanwhile. */
export function offsetElapsed(instant: InstantMs, n: number, unit: 'minute' | 'hour'): InstantMs {
  return instant + n * elapsedMs(unit);
}

/** Milliseconds of one elapsed or working unit. */
export function elapsedMs(unit: 'minute' | 'hour' | 'workminute' | 'workhour'): number {
  return unit === 'minute' || unit === 'workminute' ? MS_PER_MINUTE : 60 * MS_PER_MINUTE;
}
