import { dayFromParts, daysInMonth, partsOfDay, weekdayOf, type Day, type DayParts } from '../time/day.ts';
import type { ByDay, RecurrenceRule } from './rrule.ts';

/** The start of a series, in parts. */
export interface SeriesStart {
  day: Day;
  /** Local milliseconds since midnight. */
  timeMs: number;
}

/** The start with the parts that every period asks for. */
export interface Series extends SeriesStart, DayParts {}

export function seriesOf(start: SeriesStart): Series {
  return { ...start, ...partsOfDay(start.day) };
}

/**
 * The days of the k-th period of a rule that repeats daily or less often, ascending. They may lie before the start: the
 * positions of BYSETPOS are counted over the whole period.
 */
export function daysOfPeriod(rule: RecurrenceRule, start: Series, k: number): Day[] {
  switch (rule.frequency) {
    case 'YEARLY':
      return daysOfYear(rule, start, start.year + k * rule.interval);
    case 'MONTHLY':
      return daysOfMonth(rule, start, k);
    case 'WEEKLY':
      return daysOfWeek(rule, start, k);
    default: {
      const day = start.day + k * rule.interval;
      return dayMatches(rule, day) ? [day] : [];
    }
  }
}

/** The first day that the k-th period can have: where it lies beyond the dates handled, the series is over. */
export function firstDayOfPeriod(rule: RecurrenceRule, start: Series, k: number): Day {
  switch (rule.frequency) {
    case 'YEARLY':
      return dayFromParts(start.year + k * rule.interval, 1, 1) - 6;
    case 'MONTHLY': {
      const index = monthIndex(start, k * rule.interval);
      return dayFromParts(Math.floor(index / 12), (index % 12) + 1, 1);
    }
    case 'WEEKLY':
      return weekOf(rule, start, k);
    default:
      return start.day + k * rule.interval;
  }
}

/** Whether a date passes the day-level BY parts as limits, as they are for DAILY and for what is shorter than a day. */
export function dayMatches(rule: RecurrenceRule, day: Day): boolean {
  const { byMonth, byMonthDay, byYearDay, byDay } = rule;
  if (byMonth.length + byMonthDay.length + byYearDay.length + byDay.length === 0) return true;
  const { year, month, dayOfMonth } = partsOfDay(day);
  if (byMonth.length > 0 && !byMonth.includes(month)) return false;
  if (byMonthDay.length > 0 && !includesDay(byMonthDay, dayOfMonth, daysInMonth(year, month))) return false;
  if (byYearDay.length > 0) {
    const first = dayFromParts(year, 1, 1);
    if (!includesDay(byYearDay, day - first + 1, dayFromParts(year + 1, 1, 1) - first)) return false;
  }
  return byDay.length === 0 || byDay.some(({ weekday }) => weekday === weekdayOf(day));
}

function daysOfWeek(rule: RecurrenceRule, start: Series, k: number): Day[] {
  const first = weekOf(rule, start, k);
  const wanted = rule.byDay.length > 0 ? rule.byDay.map(({ weekday }) => weekday) : [weekdayOf(start.day)];
  const days: Day[] = [];
  for (let day = first; day < first + 7; day++) {
    if (!wanted.includes(weekdayOf(day))) continue;
    if (rule.byMonth.length === 0 || rule.byMonth.includes(partsOfDay(day).month)) days.push(day);
  }
  return days;
}

function weekOf(rule: RecurrenceRule, start: Series, k: number): Day {
  const back = (weekdayOf(start.day) - rule.weekStart + 7) % 7;
  return start.day - back + 7 * k * rule.interval;
}

function daysOfMonth(rule: RecurrenceRule, start: Series, k: number): Day[] {
  const index = monthIndex(start, k * rule.interval);
  const month = (index % 12) + 1;
  if (rule.byMonth.length > 0 && !rule.byMonth.includes(month)) return [];
  return inMonth(rule, start, Math.floor(index / 12), month);
}

/** Months since year 0 of the month n months after the start's. */
function monthIndex({ year, month }: Series, n: number): number {
  return year * 12 + month - 1 + n;
}

/** Days within one month: BYMONTHDAY, limited by BYDAY; or BYDAY alone; or the start's day of month. */
function inMonth(rule: RecurrenceRule, start: Series, year: number, month: number): Day[] {
  const first = dayFromParts(year, month, 1);
  const length = daysInMonth(year, month);
  if (rule.byMonthDay.length === 0 && rule.byDay.length > 0)
    return byDayWithin(rule.byDay, first, first + length);
  const found: Day[] = [];
  if (rule.byMonthDay.length === 0) pushMonthDay(rule, first, length, start.dayOfMonth, found);
  else for (const n of rule.byMonthDay) pushMonthDay(rule, first, length, n, found);
  const days = uniqueDays(found);
  if (rule.byDay.length === 0) return days;
  const allowed = new Set(byDayWithin(rule.byDay, first, first + length));
  return days.filter((day) => allowed.has(day));
}

/** One day of a month by its number; one that the month lacks goes where SKIP says. */
function pushMonthDay(rule: RecurrenceRule, first: Day, length: number, n: number, out: Day[]): void {
  const day = n > 0 ? n : length + n + 1;
  if (day >= 1 && day <= length) out.push(first + day - 1);
  else if (rule.skip === 'FORWARD') out.push(n > 0 ? first + length : first);
  else if (rule.skip === 'BACKWARD') out.push(n > 0 ? first + length - 1 : first - 1);
}

function daysOfYear(rule: RecurrenceRule, start: Series, year: number): Day[] {
  const { byMonth, byWeekNo, byYearDay, byMonthDay, byDay } = rule;
  if (byWeekNo.length > 0) return daysOfWeekNumbers(rule, start, year);
  const first = dayFromParts(year, 1, 1);
  const end = dayFromParts(year + 1, 1, 1);
  if (byYearDay.length > 0) {
    const days = uniqueDays(
      byYearDay.flatMap((n) => {
        const day = n > 0 ? first + n - 1 : end + n;
        return day >= first && day < end ? [day] : [];
      })
    );
    return days.filter((day) => passesOthers(rule, day, year, first, end));
  }
  if (byMonth.length > 0 || byMonthDay.length > 0 || byDay.length === 0) {
    const months = byMonth.length > 0 ? byMonth : byMonthDay.length > 0 ? ALL_MONTHS : [start.month];
    // BYDAY numbers its days within the month where BYMONTH stands, within the year where it does not.
    if (byMonth.length > 0 || byDay.length === 0)
      return uniqueDays(months.flatMap((month) => inMonth(rule, start, year, month)));
    const allowed = new Set(byDayWithin(byDay, first, end));
    const days = months.flatMap((month) => inMonth({ ...rule, byDay: [] }, start, year, month));
    return uniqueDays(days).filter((day) => allowed.has(day));
  }
  return byDayWithin(byDay, first, end);
}

const ALL_MONTHS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12];

/** The limits that BYYEARDAY's days pass: month, day of month, weekday. */
function passesOthers(rule: RecurrenceRule, day: Day, year: number, first: Day, end: Day): boolean {
  const { byMonth, byMonthDay, byDay } = rule;
  const { month, dayOfMonth } = partsOfDay(day);
  if (byMonth.length > 0 && !byMonth.includes(month)) return false;
  if (byMonthDay.length > 0 && !includesDay(byMonthDay, dayOfMonth, daysInMonth(year, month))) return false;
  return byDay.length === 0 || byDayWithin(byDay, first, end).includes(day);
}

/** Days of numbered weeks (ISO 8601 where the week starts on Monday); without BYDAY the start's weekday. */
function daysOfWeekNumbers(rule: RecurrenceRule, start: Series, year: number): Day[] {
  const first = firstWeekOf(year, rule.weekStart);
  const weeks = (firstWeekOf(year + 1, rule.weekStart) - first) / 7;
  const weekdays = rule.byDay.length > 0 ? rule.byDay.map(({ weekday }) => weekday) : [weekdayOf(start.day)];
  const days: Day[] = [];
  for (const n of rule.byWeekNo) {
    const week = n > 0 ? n : weeks + n + 1;
    if (week < 1 || week > weeks) continue;
    for (let day = first + 7 * (week - 1); day < first + 7 * week; day++) {
      if (!weekdays.includes(weekdayOf(day))) continue;
      const { byMonth, byMonthDay } = rule;
      if (dayMatches({ ...rule, byDay: [], byYearDay: [], byMonth, byMonthDay }, day)) days.push(day);
    }
  }
  return uniqueDays(days);
}

/** The start of the first week with at least four days in the year. */
function firstWeekOf(year: number, weekStart: number): Day {
  const fourth = dayFromParts(year, 1, 4);
  return fourth - ((weekdayOf(fourth) - weekStart + 7) % 7);
}

/** Weekdays within `[first, end)`: every one, or the n-th from either side. */
function byDayWithin(byDay: readonly ByDay[], first: Day, end: Day): Day[] {
  if (byDay.length > 2 && byDay.every(({ n }) => n === 0)) return weekdaysWithin(byDay, first, end);
  const days: Day[] = [];
  for (const { n, weekday } of byDay) {
    const firstOne = first + ((weekday - weekdayOf(first) + 7) % 7);
    const count = Math.floor((end - 1 - firstOne) / 7) + 1;
    if (n === 0) for (let i = 0; i < count; i++) days.push(firstOne + 7 * i);
    else {
      const i = n > 0 ? n - 1 : count + n;
      if (i >= 0 && i < count) days.push(firstOne + 7 * i);
    }
  }
  return uniqueDays(days);
}

/** Every day of several weekdays, by going through them once: collecting them by weekday would have to be sorted. */
function weekdaysWithin(byDay: readonly ByDay[], first: Day, end: Day): Day[] {
  let mask = 0;
  for (const { weekday } of byDay) mask |= 1 << weekday;
  const days: Day[] = [];
  for (let day = first, weekday = weekdayOf(first); day < end; day++) {
    if ((mask >> weekday) & 1) days.push(day);
    weekday = weekday === 6 ? 0 : weekday + 1;
  }
  return days;
}

function includesDay(wanted: readonly number[], day: number, length: number): boolean {
  return wanted.includes(day) || wanted.includes(day - length - 1);
}

function uniqueDays(days: Day[]): Day[] {
  for (let i = 1; i < days.length; i++) {
    if (days[i]! > days[i - 1]!) continue;
    days.sort((a, b) => a - b);
    return days.filter((day, at) => at === 0 || day !== days[at - 1]);
  }
  return days;
}
