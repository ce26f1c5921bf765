import type { CompiledCalendar } from '../calendar/compiled.ts';
import { ringInstant, type RingInstant } from '../ring/ring-instant.ts';
import { momentOfInstant } from '../ring/moment-of-instant.ts';
import type { EndOfDay } from '../ring/moments.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { Wait } from './step-model.ts';

/**
 * When a wait that begins at an instant ends: an offset like any other, counted from that instant in the zone of the run.
 * Without a time of day a wait in days keeps the time it is.
 * @throws CodedError `no-working-time` or `date-out-of-range`
 * @example two working days from Friday 4 September 2026, 11:00, at 09:00, with Monday the 7th working: Tuesday the 8th, 09:00
 */
export function waitUntil(
  { n, unit, time, closedDay }: Pick<Wait, 'n' | 'unit' | 'time' | 'closedDay'>,
  from: InstantMs,
  { zone, calendar, endOfDay }: { zone: Zone; calendar: CompiledCalendar; endOfDay: EndOfDay }
): InstantMs {
  const out: RingInstant = { instant: NaN, originDay: 0 };
  const minute = time === null ? null : parseTimeOfDay(time);
  const context = {
    kind: 'start' as const,
    zone,
    anchorZone: zone,
    calendar,
    dueCalendar: calendar,
    endOfDay,
    noticeMinute: 0
  };
  const { instant } = ringInstant({ n, unit, closedDay, minute }, momentOfInstant(from, zone), context, out);
  // What a closed-day rule skips would never end: it goes on at once.
  return Number.isNaN(instant) ? from : Math.max(instant, from);
}
