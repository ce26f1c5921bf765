import { MONTH_NAMES, MS_PER_DAY, dayFromParts, pad2, partsOfDay, weekdayOf, type Day } from './day.ts';
import type { InstantMs, Zone } from './zone.ts';
import { placeOfZone } from './zone-names.ts';

/** The one place that writes dates and times for a reader. English, weekday and month in letters, 24-hour clock. */

export const WEEKDAY_NAMES = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday'
] as const;

/** `Thursday 5 March 2026` */
export function longDay(day: Day): string {
  const { year, month, dayOfMonth } = partsOfDay(day);
  return `${WEEKDAY_NAMES[weekdayOf(day)]!} ${dayOfMonth} ${MONTH_NAMES[month - 1]!} ${year}`;
}

/** `March 2026` */
export function monthWords(day: Day): string {
  const { year, month } = partsOfDay(day);
  return `${MONTH_NAMES[month - 1]!} ${year}`;
}

/** `Thu 5 Mar`, with the year when it is not that of `nowDay`. */
export function shortDay(day: Day, nowDay: Day = day): string {
  const { year, month, dayOfMonth } = partsOfDay(day);
  const text = `${WEEKDAY_NAMES[weekdayOf(day)]!.slice(0, 3)} ${dayOfMonth} ${MONTH_NAMES[month - 1]!.slice(0, 3)}`;
  return partsOfDay(nowDay).year === year ? text : `${text} ${year}`;
}

/** `Thu 5 Mar 2026` */
export function shortDayAndYear(day: Day): string {
  return `${shortDay(day)} ${partsOfDay(day).year}`;
}

/** `9–13 March`, `30 March – 3 April`, or `Thursday 5 March` for one day; with the year where it is not that of `nowDay`. */
export function daysWords(first: Day, last: Day, nowDay: Day): string {
  const from = partsOfDay(first);
  const to = partsOfDay(last);
  const year = to.year === partsOfDay(nowDay).year && from.year === to.year ? '' : ` ${to.year}`;
  const end = `${to.dayOfMonth} ${MONTH_NAMES[to.month - 1]!}`;
  if (first === last) return `${WEEKDAY_NAMES[weekdayOf(first)]!} ${end}${year}`;
  if (from.year !== to.year)
    return `${from.dayOfMonth} ${MONTH_NAMES[from.month - 1]!} ${from.year} – ${end}${year}`;
  if (from.month !== to.month) return `${from.dayOfMonth} ${MONTH_NAMES[from.month - 1]!} – ${end}${year}`;
  return `${from.dayOfMonth}–${end}${year}`;
}

/** `Thursday 5 March 2026` of a date that was written by the core itself: the last date handled ends on the first of the next year. */
export function longDate(date: string): string {
  const [year, month, dayOfMonth] = date.split('-').map(Number) as [number, number, number];
  return longDay(dayFromParts(year, month, dayOfMonth));
}

/** Time of day of an instant in a zone, `09:00`. */
export function clockTime(instant: InstantMs, zone: Zone): string {
  const local = zone.localOf(instant);
  const minutes = Math.floor((local - Math.floor(local / MS_PER_DAY) * MS_PER_DAY) / 60_000);
  return `${pad2(Math.floor(minutes / 60))}:${pad2(minutes % 60)}`;
}

/** `Thu 5 Mar, 09:00` in a zone. */
export function shortMoment(instant: InstantMs, zone: Zone, nowDay?: Day): string {
  return `${shortDay(zone.dayOf(instant), nowDay)}, ${clockTime(instant, zone)}`;
}

/** `Thursday 5 March 2026 at 09:00` in a zone. */
export function longMoment(instant: InstantMs, zone: Zone): string {
  return `${longDay(zone.dayOf(instant))} at ${clockTime(instant, zone)}`;
}

/** `Thursday 5 March 2026 at 09:00 in Kolkata` of an RFC 9557 string. */
export function longZoned(text: string): string {
  const zone = /\[([^\][]+)\]/.exec(text)?.[1] ?? 'UTC';
  return `${longDate(text.slice(0, 10))} at ${text.slice(11, 16)} in ${placeOfZone(zone)}`;
}
