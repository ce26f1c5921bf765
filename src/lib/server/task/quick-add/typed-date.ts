import * as chrono from 'chrono-node';
import type { WorkingDays } from '../../../core/calendar/working-days.ts';
import type { Week } from '../../../core/calendar/spec.ts';
import { weekStartOf } from '../../../core/ring/week-spans.ts';
import {
  addMonths,
  dayFromParts,
  daysInMonth,
  partsOfDay,
  weekdayOf,
  type Day
} from '../../../core/time/day.ts';
import { longDay } from '../../../core/time/format.ts';
import { MS_PER_DAY } from '../../../core/time/day.ts';
import type { InstantMs, Zone } from '../../../core/time/zone.ts';
import { withoutLeading, withoutTail } from './without-tail.ts';
import { readTypedTime, type TypedTime } from './typed-time.ts';

/** Whose words they are: dates are read on their wall, working days on their calendar. */
export interface Typist {
  now: InstantMs;
  zone: Zone;
  days: WorkingDays;
  week: Week;
}

/** A date as somebody typed it. */
export interface TypedDate {
  day: Day;
  /** `HH:MM`; null without a time. */
  time: string | null;
}

export interface DateReading {
  /** What it can mean, the likeliest first; more than one must be asked. */
  choices: (TypedDate & { label: string })[];
  /** The words before it, where it stands at the end of a text. */
  rest: string;
}

const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const WEEKDAY =
  '(mon|tue|tues|wed|weds|thu|thur|thurs|fri|sat|sun|monday|tuesday|wednesday|thursday|friday|saturday|sunday)';
const UNIT_WORDS = '(days?|weeks?|fortnights?|months?)';
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

/** Words for dates in our own terms: each gives the days it can mean, from today. */
const PHRASES: readonly [RegExp, (match: RegExpExecArray, today: Day, typist: Typist) => (Day | null)[]][] = [
  [/(?:the )?day after tomorrow/, (_, today) => [today + 2]],
  [/today|tonight/, (_, today) => [today]],
  [/tomorrow/, (_, today) => [today + 1]],
  [/yesterday/, (_, today) => [today - 1]],
  [
    new RegExp(
      `(?:in|after) ${NUMBER} (?:working|business|work) ?days?|${NUMBER} (?:working|business|work) ?days? from (?:now|today)`
    ),
    (match, today, { days }) => [days.offset(today, countOf(match[1] ?? match[2]!))]
  ],
  [/(?:the )?next (?:working|business|work) ?day/, (_, today, { days }) => [days.offset(today, 1)]],
  [
    new RegExp(`(?:in|after) ${NUMBER} ${UNIT_WORDS}|${NUMBER} ${UNIT_WORDS} from (?:now|today)`),
    (match, today) => [later(today, countOf(match[1] ?? match[3]!), match[2] ?? match[4]!)]
  ],
  [
    /(?:the )?last working day of (?:the|this) month|(?:the )?last working day of (next) month/,
    (match, today, { days }) => [lastWorkingDay(match[1] ? addMonths(firstOfMonth(today), 1) : today, days)]
  ],
  [
    /(?:the )?end of (?:the|this) month|(?:the )?end of (next) month/,
    (match, today) => [lastOfMonth(match[1] ? addMonths(firstOfMonth(today), 1) : today)]
  ],
  [/(?:the )?end of (?:the|this) week/, (_, today, typist) => [lastOfWeek(today, typist)]],
  [/next week/, (_, today, { week }) => [nextWeek(today, week)]],
  [/next month/, (_, today) => [addMonths(firstOfMonth(today), 1)]],
  // Whether “next Friday” is the coming one or that of next week is said differently by different people.
  [new RegExp(`next ${WEEKDAY}`), (match, today, { week }) => nextWeekday(today, match[1]!, week)],
  [new RegExp(`this ${WEEKDAY}`), (match, today) => [thisWeekday(today, match[1]!)]],
  // Said on a Friday, “Friday” can be today or the one to come.
  [new RegExp(`(?:on )?${WEEKDAY}`), (match, today) => comingWeekday(today, match[1]!)],
  [/(\d{4})-(\d{1,2})-(\d{1,2})/, (match) => [dateOf(+match[1]!, +match[2]!, +match[3]!)]],
  // With points the day comes first; with slashes either may.
  [
    /(\d{1,2})\.(\d{1,2})\.(\d{4})?/,
    (match, today) => [writtenDate(today, +match[1]!, +match[2]!, match[3])]
  ],
  [
    /(\d{1,2})\/(\d{1,2})(?:\/(\d{4}))?/,
    (match, today) => [
      writtenDate(today, +match[1]!, +match[2]!, match[3]),
      writtenDate(today, +match[2]!, +match[1]!, match[3])
    ]
  ]
];

/**
 * Reads a text as a date with perhaps a time. With `ends` it may stand at the end of other words, which are given back.
 * @returns null when it is none
 * @example readTypedDate('fri 3pm', …) // the coming Friday at 15:00
 */
export function readTypedDate(text: string, typist: Typist, ends = false): DateReading | null {
  const plain = text.replace(/\s+/g, ' ').trim();
  const time = readTypedTime(plain);
  // The time is at the end, or at the beginning where the date follows.
  const withoutTime = time ? time.rest : plain;
  const found = readDays(withoutTime, typist, ends);
  if (found) {
    const before = time ? null : timeBefore(found.rest);
    return before ? combine({ ...found, rest: before.rest }, before, typist) : combine(found, time, typist);
  }
  const other = readElse(plain, typist, ends);
  const bare = time && !other?.certain ? readBare(withoutTime, typist, ends, time) : null;
  return bare ? combine(bare, time, typist) : other;
}

/** A time that stands before its date: “3pm mon”. */
function timeBefore(text: string): TypedTime | null {
  const time = readTypedTime(text);
  return time && text.startsWith(time.rest) ? time : null;
}

interface Days {
  days: Day[];
  rest: string;
}

function readDays(text: string, typist: Typist, ends: boolean): Days | null {
  const today = typist.zone.dayOf(typist.now);
  for (const [pattern, read] of PHRASES) {
    const match = new RegExp(
      `^${ends ? '(?:|.*?[\\s,])' : ''}(?:by |due |until |till |on )?(?:${pattern.source})$`,
      'i'
    ).exec(text);
    if (!match) continue;
    const body = new RegExp(`(?:^|[\\s,])((?:by |due |until |till |on )?(?:${pattern.source}))$`, 'i').exec(
      text
    );
    const start = body ? body.index + body[0].length - body[1]!.length : 0;
    const inner = new RegExp(pattern.source, 'i').exec(text.slice(start))!;
    const days = read(lower(inner), today, typist).filter(
      (day): day is Day => day !== null && !Number.isNaN(day)
    );
    if (days.length === 0) return null;
    return { days: [...new Set(days)], rest: withoutTail(text.slice(0, start)) };
  }
  return null;
}

function lower(match: RegExpExecArray): RegExpExecArray {
  return match.map((part) => part?.toLowerCase()) as unknown as RegExpExecArray;
}

/** A time alone is today's while it is still ahead, else tomorrow's. */
function readBare(text: string, { now, zone }: Typist, ends: boolean, time: TypedTime): Days | null {
  if (text !== '' && !ends) return null;
  // “Call 3” is no appointment: what stands behind other words must say that it is a time.
  if (text !== '' && !time.sure) return null;
  const today = zone.dayOf(now);
  const local = zone.localOf(now) - today * MS_PER_DAY;
  const [hours = 0, minutes = 0] = time.choices[0]!.split(':').map(Number);
  return { days: [(hours * 60 + minutes) * 60_000 > local ? today : today + 1], rest: text };
}

function combine({ days, rest }: Days, time: TypedTime | null, { now, zone }: Typist): DateReading {
  const today = zone.dayOf(now);
  const times: (string | null)[] = time ? time.choices : [null];
  const choices = days.flatMap((day) =>
    times.map((at) => ({
      day,
      time: at,
      label: `${day === today ? 'today, ' : ''}${longDay(day)}${at ? ` at ${at}` : ''}`
    }))
  );
  // Where it must be asked, what has passed already is not meant.
  const ahead = choices.filter(({ day, time: at }) => !isPast(day, at, now, zone));
  return { choices: choices.length > 1 && ahead.length > 0 ? ahead : choices, rest };
}

function isPast(day: Day, time: string | null, now: InstantMs, zone: Zone): boolean {
  if (time === null) return false;
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  return day * MS_PER_DAY + (hours * 60 + minutes) * 60_000 <= zone.localOf(now);
}

/** Everything else that people write for a date: “5 march”, “in 3 hours”, “the 12th”. */
function readElse(
  text: string,
  { now, zone }: Typist,
  ends: boolean
): (DateReading & { certain: boolean }) | null {
  // On the wall of whoever types, without regard to the zone of this machine.
  const wall = new Date(zone.localOf(now));
  const results = chrono.en.GB.parse(text, { instant: wall, timezone: 0 }, { forwardDate: true });
  const result = results.at(-1);
  if (!result || result.index + result.text.length !== text.length) return null;
  if (result.index > 0 && !ends) return null;
  const { start } = result;
  const exact = start.isCertain('day') || start.isCertain('hour');
  if (!exact || result.end) return null;
  const day = dateOf(start.get('year')!, start.get('month')!, start.get('day')!);
  if (day === null) return null;
  const hour = start.isCertain('hour') ? start.get('hour')! : null;
  const time = hour === null ? null : `${two(hour)}:${two(start.get('minute') ?? 0)}`;
  return {
    choices: [{ day, time, label: `${longDay(day)}${time ? ` at ${time}` : ''}` }],
    certain: start.isCertain('day'),
    rest: withoutLeading(text.slice(0, result.index))
  };
}

function two(n: number): string {
  return String(n).padStart(2, '0');
}

function countOf(word: string): number {
  return NUMBER_WORDS[word] ?? Number(word);
}

function later(today: Day, n: number, unit: string): Day {
  if (unit.startsWith('month')) return addMonths(today, n);
  return today + n * (unit.startsWith('week') ? 7 : unit.startsWith('fortnight') ? 14 : 1);
}

function firstOfMonth(day: Day): Day {
  const { year, month } = partsOfDay(day);
  return dayFromParts(year, month, 1);
}

function lastOfMonth(day: Day): Day {
  const { year, month } = partsOfDay(day);
  return dayFromParts(year, month, daysInMonth(year, month));
}

function lastWorkingDay(day: Day, days: WorkingDays): Day {
  const last = lastOfMonth(day);
  return days.isWorking(last) ? last : days.offset(last, -1);
}

/** The last working day before the next week's first. */
function lastOfWeek(today: Day, { days, week }: Typist): Day {
  const last = nextWeek(today, week) - 1;
  return days.isWorking(last) ? last : Math.max(today, days.offset(last, -1));
}

function nextWeek(today: Day, week: Week): Day {
  return today + ((weekStartOf(week) - weekdayOf(today) + 7) % 7 || 7);
}

function indexOf(weekday: string): number {
  return WEEKDAYS.indexOf(weekday.slice(0, 3).toLowerCase());
}

function comingWeekday(today: Day, weekday: string): Day[] {
  const ahead = (indexOf(weekday) - weekdayOf(today) + 7) % 7;
  return ahead === 0 ? [today, today + 7] : [today + ahead];
}

function thisWeekday(today: Day, weekday: string): Day {
  return today + ((indexOf(weekday) - weekdayOf(today) + 7) % 7);
}

function nextWeekday(today: Day, weekday: string, week: Week): Day[] {
  const ahead = (indexOf(weekday) - weekdayOf(today) + 7) % 7 || 7;
  const coming = today + ahead;
  const from = nextWeek(today, week);
  const ofNextWeek = from + ((indexOf(weekday) - weekdayOf(from) + 7) % 7);
  return coming === ofNextWeek ? [coming] : [ofNextWeek, coming];
}

/** A date that exists; null for 31 February. */
function dateOf(year: number, month: number, day: number): Day | null {
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return null;
  return dayFromParts(year, month, day);
}

/** Day and month without a year are the next such date. */
function writtenDate(today: Day, day: number, month: number, year: string | undefined): Day | null {
  if (year) return dateOf(Number(year), month, day);
  const { year: present } = partsOfDay(today);
  const found = dateOf(present, month, day);
  return found !== null && found < today ? dateOf(present + 1, month, day) : found;
}
