import type { Day } from '../time/day.ts';
import { clockTime, longDay } from '../time/format.ts';
import type { Moment } from '../time/instant.ts';
import { placeOfZone } from '../time/zone-names.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/**
 * The reader’s own deadline of a date that is pinned to a place: until when it is still that day there, on the reader’s wall.
 * @param dueAt the due moment
 * @param place the zone that the date is pinned to; null where it is not
 * @returns null where there is nothing to say: no place, a date with a time, or the same wall there
 */
function ownDeadline(
  due: Moment,
  dueAt: InstantMs,
  place: Zone | null,
  reader: Zone,
  dayWords: (day: Day) => string
): string | null {
  if (!place || due.minute !== null || place.offsetAt(dueAt) === reader.offsetAt(dueAt)) return null;
  const day = reader.dayOf(dueAt);
  const on = day === due.day ? '' : ` on ${dayWords(day)}`;
  return `by ${clockTime(dueAt, reader)}${on} your time`;
}

/**
 * The same with the place before it: “in Muscat: by 20:00 your time”.
 * @param dayWords how another day is written
 */
export function pinnedWords(
  due: Moment,
  dueAt: InstantMs,
  place: Zone | null,
  reader: Zone,
  dayWords: (day: Day) => string = longDay
): string | null {
  const own = ownDeadline(due, dueAt, place, reader, dayWords);
  return own === null ? null : `in ${placeOfZone(place!.nameAt(dueAt))}: ${own}`;
}
