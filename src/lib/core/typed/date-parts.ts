import { MONTH_NAMES, dayFromParts, daysInMonth, partsOfDay, whyNoSuchDay, type Day } from '../time/day.ts';

const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];

/** 0 Monday to 6 Sunday, of a weekday's name or its beginning. */
export function weekdayNumber(name: string): number {
  return WEEKDAYS.indexOf(name.slice(0, 3).toLowerCase());
}

/** 1 to 12, of a month's name or its beginning. */
export function numberedMonth(name: string): number {
  const start = name.slice(0, 3).toLowerCase();
  return MONTH_NAMES.findIndex((month) => month.slice(0, 3).toLowerCase() === start) + 1;
}

/** A day; or, where what was written is none, why: “February 2026 has 28 days”. */
export type DayOrWhy = Day | string;

/** A date that exists, or why there is none. */
export function dateOf(year: number, month: number, day: number): DayOrWhy {
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return whyNoSuchDay(year, month);
  return dayFromParts(year, month, day);
}

/**
 * Day and month without a year are the next such date, today included; 29 February is that of the next leap year.
 * @param year as it was written; absent where it was not
 */
export function nearestYear(today: Day, day: number, month: number, year: string | undefined): DayOrWhy {
  if (year) return dateOf(Number(year), month, day);
  const { year: present } = partsOfDay(today);
  // Leap years lie at most eight years apart.
  const most = month === 2 && day === 29 ? 8 : 1;
  for (let ahead = 0; ahead <= most; ahead++) {
    const found = dateOf(present + ahead, month, day);
    if (typeof found === 'number' && found >= today) return found;
  }
  return dateOf(present, month, day);
}
