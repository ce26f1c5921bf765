import type { CompiledCalendar } from '../calendar/compiled.ts';
import { intervalsOn } from '../calendar/spec.ts';
import type { Day } from '../time/day.ts';
import { instantOnWall, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** When a day ends for a due date: at its last midnight, or at the close of business. */
export type EndOfDay = 'midnight' | 'close';

/**
 * The due moment: of a date the end of that day in `zone`, of a date-time the moment itself.
 * @param calendar whose close of business counts when `endOfDay` is `close`; a closed day ends at midnight then too
 * @param closeZone on whose wall that calendar closes, where it is not `zone`
 */
export function dueMoment(
  due: Moment,
  zone: Zone,
  endOfDay: EndOfDay,
  calendar: CompiledCalendar,
  closeZone: Zone = zone
): InstantMs {
  if (due.minute !== null) return instantOnWall(due.day, due.minute, due.zone ?? zone);
  if (endOfDay === 'close') {
    const closes = closeOfBusiness(due.day, calendar);
    if (closes !== null) return instantOnWall(due.day, closes, closeZone);
  }
  return zone.endOfDay(due.day);
}

/** The start moment: of a date its first instant in `zone`, of a date-time the moment itself. */
export function startMoment(start: Moment, zone: Zone): InstantMs {
  if (start.minute !== null) return instantOnWall(start.day, start.minute, start.zone ?? zone);
  return zone.startOfDay(start.day);
}

/** End of the last interval that starts on a date, in minutes from its midnight; null on a closed day. */
function closeOfBusiness(day: Day, { calendar }: CompiledCalendar): number | null {
  const intervals = intervalsOn(calendar, day);
  return intervals.length > 0 ? Math.max(...intervals.map(({ close }) => close)) : null;
}

/**
 * The use-by of a ring before or on the day: the instant after which it has lost its point. For a due date the due
 * moment; for a start the end of that day, or the start itself when it has a time.
 */
export function useByOfAnchor(
  kind: 'due' | 'start',
  anchor: Moment,
  zone: Zone,
  endOfDay: EndOfDay,
  calendar: CompiledCalendar,
  closeZone: Zone = zone
): InstantMs {
  if (kind === 'due') return dueMoment(anchor, zone, endOfDay, calendar, closeZone);
  return anchor.minute !== null ? startMoment(anchor, zone) : zone.endOfDay(anchor.day);
}
