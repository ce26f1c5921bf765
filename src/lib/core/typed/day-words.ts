import {
  MONTH_NAMES,
  addMonths,
  dayFromParts,
  daysInMonth,
  partsOfDay,
  weekdayOf,
  type Day
} from '../time/day.ts';
import { WEEKDAY_NAMES } from '../time/format.ts';
import { nearestYear, numberedMonth, weekdayNumber, type DayOrWhy } from './date-parts.ts';

/** Working days, counted: those of a calendar, or a list of them that a screen was given. */
export interface CountedDays {
  isWorking(day: Day): boolean;
  /** The n-th working day after a day, before it where n is negative. @throws CodedError where they end first */
  offset(day: Day, n: number): Day;
}

/** What the words of a date are counted from. */
export interface DayTypist {
  today: Day;
  days: CountedDays;
  /** The first day of their working week, 0 Monday to 6 Sunday. */
  weekStart: number;
}

/** A way to say a date: its words, and the days it can mean, the likeliest first; why, where there is no such day. */
export interface DayPhrase {
  words: RegExp;
  read: (match: readonly (string | undefined)[], typist: DayTypist) => DayOrWhy[];
}

const WEEKDAY =
  '(mon|tue|tues|wed|weds|thu|thur|thurs|fri|sat|sun|monday|tuesday|wednesday|thursday|friday|saturday|sunday)';
const MONTH = `(${MONTH_NAMES.flatMap((name) => [name, name.slice(0, 3)]).join('|')}|sept)\\.?`;
const NTH = '(\\d{1,2})(?:st|nd|rd|th)?';
const UNIT_WORDS = '(days?|weeks?|fortnights?|months?|years?)';
const NUMBER_WORDS: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10
};
const NUMBER = `(\\d{1,4}|${Object.keys(NUMBER_WORDS).join('|')})`;

const phrase = (words: string, read: DayPhrase['read']): DayPhrase => ({
  words: new RegExp(words, 'i'),
  read
});

/** Words for dates in our own terms. What they mean is common practice, no source. */
export const DAY_PHRASES: readonly DayPhrase[] = [
  phrase('(?:the )?day after tomorrow', (_, { today }) => [today + 2]),
  phrase('today|tonight', (_, { today }) => [today]),
  phrase('tomorrow', (_, { today }) => [today + 1]),
  phrase('yesterday', (_, { today }) => [today - 1]),
  phrase(
    `(?:in|after) ${NUMBER} (?:working|business|work) ?days?|${NUMBER} (?:working|business|work) ?days? from (?:now|today)`,
    ([, n, fromNow], { today, days }) => [days.offset(today, countOf((n ?? fromNow)!))]
  ),
  phrase('(?:the )?next (?:working|business|work) ?day', (_, { today, days }) => [days.offset(today, 1)]),
  phrase(
    `(?:in|after) ${NUMBER} ${UNIT_WORDS}|${NUMBER} ${UNIT_WORDS} from (?:now|today)`,
    ([, n, unit, fromNow, unitFromNow], { today }) => [
      later(today, countOf((n ?? fromNow)!), (unit ?? unitFromNow)!)
    ]
  ),
  phrase(
    '(?:the )?last working day of (?:the|this) month|(?:the )?last working day of (next) month',
    ([, next], { today, days }) => [lastWorkingDay(next ? addMonths(firstOfMonth(today), 1) : today, days)]
  ),
  phrase('(?:the )?end of (?:(?:the|this) )?month|(?:the )?end of (next) month', ([, next], { today }) => [
    lastOfMonth(next ? addMonths(firstOfMonth(today), 1) : today)
  ]),
  phrase('(?:the )?end of (?:(?:the|this) )?week', (_, typist) => [lastOfWeek(typist)]),
  phrase('next week', (_, typist) => [nextWeek(typist)]),
  phrase('next month', (_, { today }) => [addMonths(firstOfMonth(today), 1)]),
  // Whether “next Friday” is the coming one or that of next week is said differently by different people.
  phrase(`next ${WEEKDAY}`, ([, weekday], typist) => nextWeekday(typist, weekday!)),
  phrase(`this ${WEEKDAY}`, ([, weekday], { today }) => [thisWeekday(today, weekday!)]),
  // With its weekday before it, as dates are written on the screens.
  phrase(
    `(?:${WEEKDAY},? )?(?:the )?${NTH}(?: of)? ${MONTH}(?:,? (\\d{4}))?`,
    ([, weekday, n, month, year], typist) =>
      onWeekday(nearestYear(typist.today, Number(n), numberedMonth(month!), year), weekday)
  ),
  phrase(`(?:${WEEKDAY},? )?${MONTH} ${NTH}(?:,? (\\d{4}))?`, ([, weekday, month, n, year], typist) =>
    onWeekday(nearestYear(typist.today, Number(n), numberedMonth(month!), year), weekday)
  ),
  phrase('(?:on )?the (\\d{1,2})(?:st|nd|rd|th)', ([, n], { today }) => [nextNth(today, Number(n))]),
  // Said on a Friday, “Friday” can be today or the one to come.
  phrase(`(?:on )?${WEEKDAY}`, ([, weekday], { today }) => comingWeekday(today, weekday!)),
  phrase('(\\d{4})-(\\d{1,2})-(\\d{1,2})', ([, year, month, n], { today }) => [
    nearestYear(today, Number(n), Number(month), year)
  ]),
  // With points the day comes first; with slashes either may.
  phrase('(\\d{1,2})\\.(\\d{1,2})\\.(\\d{4})?', ([, n, month, year], { today }) => [
    nearestYear(today, Number(n), Number(month), year)
  ]),
  phrase('(\\d{1,2})\\/(\\d{1,2})(?:\\/(\\d{4}))?', ([, first, second, year], { today }) => [
    nearestYear(today, Number(first), Number(second), year),
    nearestYear(today, Number(second), Number(first), year)
  ])
];

function countOf(word: string): number {
  return NUMBER_WORDS[word.toLowerCase()] ?? Number(word);
}

function later(today: Day, n: number, unit: string): Day {
  const word = unit.toLowerCase();
  if (word.startsWith('year')) return addMonths(today, n * 12);
  if (word.startsWith('month')) return addMonths(today, n);
  return today + n * (word.startsWith('week') ? 7 : word.startsWith('fortnight') ? 14 : 1);
}

function firstOfMonth(day: Day): Day {
  const { year, month } = partsOfDay(day);
  return dayFromParts(year, month, 1);
}

function lastOfMonth(day: Day): Day {
  const { year, month } = partsOfDay(day);
  return dayFromParts(year, month, daysInMonth(year, month));
}

function lastWorkingDay(day: Day, days: CountedDays): Day {
  const last = lastOfMonth(day);
  return days.isWorking(last) ? last : days.offset(last, -1);
}

/** The last working day before the next week's first. */
function lastOfWeek(typist: DayTypist): Day {
  const last = nextWeek(typist) - 1;
  return typist.days.isWorking(last) ? last : Math.max(typist.today, typist.days.offset(last, -1));
}

function nextWeek({ today, weekStart }: DayTypist): Day {
  return today + ((weekStart - weekdayOf(today) + 7) % 7 || 7);
}

function comingWeekday(today: Day, weekday: string): Day[] {
  const ahead = (weekdayNumber(weekday) - weekdayOf(today) + 7) % 7;
  return ahead === 0 ? [today, today + 7] : [today + ahead];
}

function thisWeekday(today: Day, weekday: string): Day {
  return today + ((weekdayNumber(weekday) - weekdayOf(today) + 7) % 7);
}

function nextWeekday(typist: DayTypist, weekday: string): Day[] {
  const ahead = (weekdayNumber(weekday) - weekdayOf(typist.today) + 7) % 7 || 7;
  const coming = typist.today + ahead;
  const from = nextWeek(typist);
  const ofNextWeek = from + ((weekdayNumber(weekday) - weekdayOf(from) + 7) % 7);
  return coming === ofNextWeek ? [coming] : [ofNextWeek, coming];
}

/** The next month that has such a day, this one included. */
function nextNth(today: Day, n: number): DayOrWhy {
  if (n < 1 || n > 31) return 'no month has such a day';
  let ahead = 0;
  for (;;) {
    const { year, month } = partsOfDay(addMonths(firstOfMonth(today), ahead++));
    const day = n <= daysInMonth(year, month) ? dayFromParts(year, month, n) : null;
    if (day !== null && day >= today) return day;
  }
}

/** A date with a weekday before it is that date only where it falls on it. */
function onWeekday(day: DayOrWhy, weekday: string | undefined): DayOrWhy[] {
  const other = typeof day === 'number' && weekday && weekdayOf(day) !== weekdayNumber(weekday);
  return [other ? `${dateWords(day)} is a ${WEEKDAY_NAMES[weekdayOf(day)]}` : day];
}

/** `5 March 2026` */
function dateWords(day: Day): string {
  const { year, month, dayOfMonth } = partsOfDay(day);
  return `${dayOfMonth} ${MONTH_NAMES[month - 1]} ${year}`;
}
