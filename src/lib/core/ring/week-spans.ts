import type { Week } from '../calendar/spec.ts';
import { weekdayOf, type Day } from '../time/day.ts';

/** The four spans of a person's list. */
export type WeekSpan = 'today' | 'rest' | 'after' | 'further';

/**
 * The weekday on which a person's week starts: the first working one after the longest closed run of the base week (of equal
 * runs the one with Sunday, else the later); Monday when no day is closed, or every day is.
 * @returns 0 is Monday
 */
export function weekStartOf(week: Week): number {
  const open = week.map((intervals) => intervals.length > 0);
  if (open.every(Boolean) || !open.some(Boolean)) return 0;
  let best = { length: 0, sunday: false, first: 0 };
  for (let first = 0; first < 7; first++) {
    // A run begins where the day before is open; it may go on over the end of the week.
    if (open[first] || !open[(first + 6) % 7]) continue;
    let length = 0;
    while (!open[(first + length) % 7]) length++;
    const sunday = (6 - first + 7) % 7 < length;
    const better =
      length > best.length || (length === best.length && (sunday || (!best.sunday && first > best.first)));
    if (better) best = { length, sunday, first };
  }
  return (best.first + best.length) % 7;
}

/**
 * In which span a date lies for somebody whose today it is: today (and what is past), the rest of the week up to the day before
 * the next week's first working day, the seven days from there, further out. Holidays and leave do not change it.
 */
export function weekSpanOf(day: Day, today: Day, week: Week): WeekSpan {
  return spanBefore(nextWeekAfter(today, weekStartOf(week)), day, today);
}

/** The first day after a date that is the weekday on which a week starts. @param weekStart 0 is Monday */
export function nextWeekAfter(day: Day, weekStart: number): Day {
  return day + ((weekStart - weekdayOf(day) + 7) % 7 || 7);
}

/** `weekSpanOf` where it is known already when the next week starts. */
export function spanBefore(nextWeek: Day, day: Day, today: Day): WeekSpan {
  if (day <= today) return 'today';
  if (day < nextWeek) return 'rest';
  return day < nextWeek + 7 ? 'after' : 'further';
}
