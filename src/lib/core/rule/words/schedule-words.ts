import { many } from '../../many.ts';
import { MS_PER_DAY, MONTH_NAMES } from '../../time/day.ts';
import { parseRecurrenceRule, type ByDay, type RecurrenceRule, type Until } from '../../recurrence/rrule.ts';
import { WEEKDAY_NAMES, longDay } from '../../time/format.ts';
import { list } from './list.ts';
import type { ScheduleLead } from '../lead-model.ts';

const PERIODS = { DAILY: 'day', WEEKLY: 'week', MONTHLY: 'month', YEARLY: 'year' } as const;
/** Parts that have no words here: a rule that uses one of them is shown as it was written. */
const WORDLESS = ['bySecond', 'byMinute', 'byHour', 'byYearDay', 'byWeekNo', 'bySetPos'] as const;

/**
 * A schedule in words: “every month on the 1st and the 15th at 09:30 …”. A recurrence that has no words here is shown as it was
 * written: a sentence that left something out would say another time than the one it rings at.
 * @param clock whose clock the time is on: “on the workspace’s clock”
 */
export function scheduleWords({ rrule, time }: Pick<ScheduleLead, 'rrule' | 'time'>, clock: string): string {
  let rule: RecurrenceRule;
  try {
    rule = parseRecurrenceRule(rrule);
  } catch {
    // A recurrence that cannot be read has its fault at its part; here it is shown as it was written.
    return `by “${rrule}” at ${time} ${clock}`;
  }
  return `${recurrenceWords(rule) ?? `by “${rrule}”`} at ${time} ${clock}`;
}

/** @returns null when it has no words here */
function recurrenceWords(rule: RecurrenceRule): string | null {
  const { frequency, interval, byDay, byMonth, byMonthDay, count, until } = rule;
  if (!(frequency in PERIODS) || WORDLESS.some((part) => rule[part].length > 0)) return null;
  const period = PERIODS[frequency as keyof typeof PERIODS];
  // A weekday and a number in one rule narrow each other (a Friday the 13th), and in a year BYMONTHDAY needs its month.
  if (byDay.length > 0 && byMonthDay.length > 0) return null;
  if (frequency === 'YEARLY' && byMonth.length === 0 && (byMonthDay.length > 0 || byDay.length > 0))
    return null;
  if (frequency === 'WEEKLY' && byMonthDay.length > 0) return null;
  const days = [
    ...daysWords(byDay, frequency),
    ...byMonthDay.map((number) =>
      number < 0 ? `the ${fromTheEnd(number, 'day')}` : `the ${ordinal(number)}`
    )
  ];
  return [
    interval === 1 ? `every ${period}` : `every ${many(interval, period)}`,
    days.length === 0 ? '' : isRun(byDay, frequency) ? `from ${days[0]!}` : `on ${list(days)}`,
    byMonth.length === 0 ? '' : `in ${list(byMonth.map((month) => MONTH_NAMES[month - 1]!))}`,
    count === null ? '' : `${many(count, 'time')} in total`,
    until === null ? '' : `until ${untilWords(until)}`
  ]
    .filter(Boolean)
    .join(' ');
}

/** Weekdays in words; three or more that follow one another are a span: “Monday to Friday”. */
function daysWords(byDay: readonly ByDay[], frequency: RecurrenceRule['frequency']): string[] {
  if (!isRun(byDay, frequency)) return byDay.map((day) => weekdayWords(day, frequency));
  return [`${WEEKDAY_NAMES[byDay[0]!.weekday]} to ${WEEKDAY_NAMES[byDay.at(-1)!.weekday]}`];
}

function isRun(byDay: readonly ByDay[], frequency: RecurrenceRule['frequency']): boolean {
  return (
    frequency === 'WEEKLY' &&
    byDay.length >= 3 &&
    byDay.every(({ n, weekday }, i) => n === 0 && weekday === byDay[0]!.weekday + i)
  );
}

function weekdayWords({ n, weekday }: ByDay, frequency: RecurrenceRule['frequency']): string {
  const name = WEEKDAY_NAMES[weekday]!;
  if (n > 0) return `the ${ordinal(n)} ${name}`;
  if (n < 0) return `the ${fromTheEnd(n, name)}`;
  return frequency === 'WEEKLY' || frequency === 'DAILY' ? name : `every ${name}`;
}

/** `last day`, `2nd last Friday` */
function fromTheEnd(n: number, what: string): string {
  return n === -1 ? `last ${what}` : `${ordinal(-n)} last ${what}`;
}

/** `1st`, `12th`, `23rd` */
function ordinal(n: number): string {
  const teen = n % 100 >= 11 && n % 100 <= 13;
  return `${n}${(!teen && ['th', 'st', 'nd', 'rd'][n % 10]) || 'th'}`;
}

function untilWords(until: Until): string {
  switch (until.kind) {
    case 'date':
      return longDay(until.day);
    case 'local':
      return longDay(Math.floor(until.at / MS_PER_DAY));
    case 'utc':
      return `${longDay(Math.floor(until.at / MS_PER_DAY))} in UTC`;
  }
}
