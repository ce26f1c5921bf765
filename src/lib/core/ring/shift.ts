import type { CompiledCalendar } from '../calendar/compiled.ts';
import { MS_PER_DAY } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { elapsedMs, offsetDay, offsetElapsed } from './offset.ts';
import { isDayLevel, isElapsed, type Unit } from './lead.ts';

/** How far a repeat lies from the first ring: k times the repeat's step, counted from what step 2 gave for the first. */
export interface Shift {
  /** Which repeat it is; 0 is the first ring itself. */
  k: number;
  /** The step. */
  n: number;
  unit: Unit;
}

/**
 * Moves an instant by a shift. Days, weeks, months and working days move its date in the ring's zone and keep its wall time;
 * minutes and hours are elapsed; working time runs on the calendar.
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function shiftInstant(
  origin: InstantMs,
  { k, n, unit }: Shift,
  { zone, calendar }: { zone: Zone; calendar: CompiledCalendar }
): InstantMs {
  if (k === 0) return origin;
  if (isElapsed(unit)) return offsetElapsed(origin, k * n, unit);
  if (!isDayLevel(unit)) {
    return calendar.spans.offset(origin, k * n * elapsedMs(unit as 'workminute' | 'workhour'));
  }
  const local = zone.localOf(origin);
  const day = Math.floor(local / MS_PER_DAY);
  return zone.instantOf(local + (offsetDay(day, k * n, unit, calendar.days) - day) * MS_PER_DAY);
}
