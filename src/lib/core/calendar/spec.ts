import { CodedError, withField } from '../errors.ts';
import { MINUTES_PER_DAY, parseDay, weekdayOf, type Day } from '../time/day.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';

export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type Weekday = (typeof WEEKDAYS)[number];

/** Working intervals of each weekday as written, `09:00-17:30`; a weekday that is missing is closed. */
export type WeekSpec = Partial<Record<Weekday, readonly string[]>>;

/** A base calendar as data: the open form that files, the database and the command line share. */
export interface CalendarSpec {
  week: WeekSpec;
  /** Other weeks, each from a date on; `week` holds before the first. */
  weeks?: readonly { from: string; week: WeekSpec }[];
  /** Dates without working time, whatever the week says; with the name of the holiday where there is one. */
  closed?: readonly (string | { date: string; name: string })[];
  /** Dates with other hours than their weekday's. `closed` wins over it. */
  hours?: Readonly<Record<string, readonly string[]>>;
}

/** A working interval in minutes from the local midnight of the date on which it starts: half-open, `close` may exceed 1440. */
export interface Interval {
  open: number;
  close: number;
}

/** The intervals of each weekday, Monday first. */
export type Week = readonly (readonly Interval[])[];

/** A base calendar, read and checked. */
export interface Calendar {
  /** Weeks by the date from which they hold, ascending; the first holds from the beginning. */
  weeks: readonly { from: Day; week: Week }[];
  /** Exceptions by day: what starts on that date instead. Empty means closed. */
  exceptions: ReadonlyMap<Day, DayException>;
}

export interface DayException {
  intervals: readonly Interval[];
  name: string | null;
}

const INTERVAL = /^(\d{2}:\d{2})-(\d{2}:\d{2})$/;

/**
 * Reads `09:00-17:30`. An end that is not after its start is on the next day (`22:00-06:00`); `24:00` is the end of the day.
 * @throws CodedError `interval-format`, `interval-empty` or `time-format`
 */
export function parseInterval(text: string): Interval {
  const match = INTERVAL.exec(text);
  if (!match) throw new CodedError('interval-format', { value: text });
  const open = parseTimeOfDay(match[1]!);
  const end = parseTimeOfDay(match[2]!, true);
  if (open === end) throw new CodedError('interval-empty', { value: text });
  return { open, close: end > open ? end : end + MINUTES_PER_DAY };
}

/** Reads a list of intervals, sorted by opening. Overlaps are joined when the calendar is compiled. */
export function parseIntervals(texts: readonly string[]): Interval[] {
  return texts.map(parseInterval).sort((a, b) => a.open - b.open || a.close - b.close);
}

/**
 * Reads the intervals of each weekday.
 * @throws CodedError `weekday-unknown`, or what an interval says, at its weekday
 */
export function parseWeek(spec: WeekSpec): Week {
  for (const weekday of Object.keys(spec)) {
    if (!(WEEKDAYS as readonly string[]).includes(weekday))
      throw new CodedError('weekday-unknown', { value: weekday });
  }
  return WEEKDAYS.map((weekday) => withField(weekday, () => parseIntervals(spec[weekday] ?? [])));
}

/** Whether a week, as written, has any working interval. */
export function hasWorkingTime(week: WeekSpec): boolean {
  return WEEKDAYS.some((weekday) => (week[weekday] ?? []).length > 0);
}

/** The week that holds on a date. */
export function weekOn({ weeks }: Calendar, day: Day): Week {
  let i = weeks.length - 1;
  while (i > 0 && weeks[i]!.from > day) i--;
  return weeks[i]!.week;
}

/** What starts on a date: its exception's intervals, else its weekday's in the week that holds then. Empty: closed. */
export function intervalsOn(calendar: Calendar, day: Day): readonly Interval[] {
  return calendar.exceptions.get(day)?.intervals ?? weekOn(calendar, day)[weekdayOf(day)]!;
}

/**
 * Reads a calendar from its open form.
 * @throws CodedError with the field (`week.mon`, `closed`, `hours.2026-03-06`) in which the fault stands
 */
export function parseCalendar(spec: CalendarSpec): Calendar {
  const weeks = [{ from: -Infinity, week: withField('week', () => parseWeek(spec.week)) }];
  (spec.weeks ?? []).forEach(({ from, week }, i) =>
    withField(`weeks.${i}`, () => {
      weeks.push({
        from: withField('from', () => parseDay(from)),
        week: withField('week', () => parseWeek(week))
      });
    })
  );
  weeks.sort((a, b) => a.from - b.from);
  const exceptions = new Map<Day, DayException>();
  for (const [date, intervals] of Object.entries(spec.hours ?? {})) {
    withField(`hours.${date}`, () => {
      exceptions.set(parseDay(date), { intervals: parseIntervals(intervals), name: null });
    });
  }
  for (const entry of spec.closed ?? []) {
    const { date, name } = typeof entry === 'string' ? { date: entry, name: null } : entry;
    withField('closed', () => exceptions.set(parseDay(date), { intervals: [], name }));
  }
  return { weeks, exceptions };
}

/** Every day open all day: what `ringtime` counts on when no calendar is given. */
export const ALWAYS_OPEN: Calendar = parseCalendar({
  week: Object.fromEntries(WEEKDAYS.map((weekday) => [weekday, ['00:00-24:00']]))
});
