import { CodedError } from '../errors.ts';

/**
 * A date without a zone, as the number of days since 1970-01-01 in the proleptic Gregorian calendar. Integers keep
 * the inner loops free of objects; `parseDay` and `formatDay` are the edges.
 */
export type Day = number;

export const MINUTES_PER_DAY = 1440;
export const MS_PER_MINUTE = 60_000;
export const MS_PER_DAY = 86_400_000;

export const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December'
] as const;

/** First and last date handled, both included: 1900-01-01 and 2200-12-31. */
export const FIRST_DAY: Day = dayFromParts(1900, 1, 1);
export const LAST_DAY: Day = dayFromParts(2200, 12, 31);

/**
 * The day of a year, month (1–12) and day of month. Days from civil, the well-known shifted-March algorithm: a year
 * that starts in March has its leap day last, so that month lengths follow a linear rule.
 */
export function dayFromParts(year: number, month: number, dayOfMonth: number): Day {
  const shiftedYear = month <= 2 ? year - 1 : year;
  const era = Math.floor(shiftedYear / 400);
  const yearOfEra = shiftedYear - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + dayOfMonth - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}

export interface DayParts {
  year: number;
  /** 1 is January. */
  month: number;
  dayOfMonth: number;
}

/** The inverse of `dayFromParts`. */
export function partsOfDay(day: Day): DayParts {
  const shifted = day + 719468;
  const era = Math.floor(shifted / 146097);
  const dayOfEra = shifted - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) /
      365
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shiftedMonth = Math.floor((5 * dayOfYear + 2) / 153);
  const month = shiftedMonth < 10 ? shiftedMonth + 3 : shiftedMonth - 9;
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    dayOfMonth: dayOfYear - Math.floor((153 * shiftedMonth + 2) / 5) + 1
  };
}

/** Weekday of a day, 0 is Monday and 6 is Sunday (ISO 8601 order). */
export function weekdayOf(day: Day): number {
  return (((day + 3) % 7) + 7) % 7;
}

export function daysInMonth(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/** Adds months on the calendar; a day of month that the target lacks becomes its last day (31 January + 1 = 28 or 29 February). */
export function addMonths(day: Day, months: number): Day {
  const { year, month, dayOfMonth } = partsOfDay(day);
  const index = year * 12 + (month - 1) + months;
  const toYear = Math.floor(index / 12);
  const toMonth = index - toYear * 12 + 1;
  return dayFromParts(toYear, toMonth, Math.min(dayOfMonth, daysInMonth(toYear, toMonth)));
}

const DATE = /^(\d{4})-(\d{2})-(\d{2})$/;

/**
 * Reads `YYYY-MM-DD`.
 * @throws CodedError `date-format`, `date-impossible` (2026-02-30) or `date-out-of-range` (1899, 2201)
 * @example parseDay('1970-01-02') // 1
 */
export function parseDay(text: string): Day {
  const match = DATE.exec(text);
  if (!match) throw new CodedError('date-format', { value: text });
  const [year, month, dayOfMonth] = [Number(match[1]), Number(match[2]), Number(match[3])];
  if (month < 1 || month > 12 || dayOfMonth < 1 || dayOfMonth > daysInMonth(year, month)) {
    throw new CodedError('date-impossible', { value: text, why: whyNoSuchDay(year, month) });
  }
  return checkDay(dayFromParts(year, month, dayOfMonth), text);
}

/** The day that `YYYY-MM-DD` names; null where it names none that is handled. */
export function dayOrNull(text: string): Day | null {
  try {
    return parseDay(text);
  } catch (error) {
    if (error instanceof CodedError) return null;
    throw error;
  }
}

/** Why a month has no such day, or is none: “February 2026 has 28 days”. */
export function whyNoSuchDay(year: number, month: number): string {
  const name = MONTH_NAMES[month - 1];
  return name ? `${name} ${year} has ${daysInMonth(year, month)} days` : `there is no month ${month}`;
}

/** Writes `YYYY-MM-DD`. */
export function formatDay(day: Day): string {
  const { year, month, dayOfMonth } = partsOfDay(day);
  return `${String(year).padStart(4, '0')}-${pad2(month)}-${pad2(dayOfMonth)}`;
}

/**
 * Returns the day when it lies in the range handled.
 * @throws CodedError `date-out-of-range`
 */
export function checkDay(day: Day, asWritten?: string): Day {
  if (!(day >= FIRST_DAY && day <= LAST_DAY)) {
    throw new CodedError('date-out-of-range', {
      value: asWritten ?? (Number.isSafeInteger(day) ? formatDay(day) : 'That date')
    });
  }
  return day;
}

export function pad2(n: number): string {
  return n < 10 ? `0${n}` : String(n);
}
