import type { CompiledCalendar } from '../calendar/compiled.ts';
import { MS_PER_DAY } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { SweepWait } from './model.ts';

const MS_PER_HOUR = 3_600_000;

/**
 * From when on something may be swept that has been so since an instant: what is finished at noon waits a day until noon, whatever the
 * clock did that night. Hours are elapsed ones; a day in working days ends at the same time of day on the n-th working day after.
 * A sweep at exactly this instant takes it.
 * @param since ms; when it was finished, closed, touched …
 * @param zone on whose wall days are counted
 * @param calendar of the owner, for working days
 * @returns ms; a time of day that a clock change leaves out is met at the change (03-timing: a gap is met by its end)
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function readyAt(
  since: InstantMs,
  { n, unit }: SweepWait,
  zone: Zone,
  calendar: CompiledCalendar
): InstantMs {
  if (n === 0) return since;
  if (unit === 'hour') return since + n * MS_PER_HOUR;
  const local = zone.localOf(since);
  const day = Math.floor(local / MS_PER_DAY);
  const moved = unit === 'day' ? day + n : calendar.days.offset(day, n);
  return zone.instantOf(local + (moved - day) * MS_PER_DAY);
}
