import ICAL from 'ical.js';
import { CodedError } from '../../../core/errors.ts';
import { hasWorkingTime, parseIntervals, parseWeek, type WeekSpec } from '../../../core/calendar/spec.ts';
import { occurrences } from '../../../core/recurrence/occurrences.ts';
import { parseRecurrenceRule } from '../../../core/recurrence/rrule.ts';
import { dayFromParts, formatDay, LAST_DAY, type Day } from '../../../core/time/day.ts';
import { zoneNamed } from '../../../core/time/zone.ts';
import type { CalendarDay } from '../../store/calendars.ts';

/** Largest calendar file, in events and in dates it may close. */
const MOST_EVENTS = 10_000;
const MOST_DAYS = 20_000;
/** How much of a file is read: a text of this length, so many values in it, and so many dates gone through to find those that are asked for. */
const MOST_CHARACTERS = 2 ** 21;
const MOST_VALUES = 60_000;
const MOST_STEPS = 200_000;
/** A single event that closes more days than this is no holiday. */
const LONGEST_EVENT_DAYS = 370;

/** What a calendar file gives. */
export interface CalendarFile {
  days: CalendarDay[];
  /** Weeks, where the file was written by this product; null otherwise. */
  weeks: { week: WeekSpec; weeks: { from: string; week: WeekSpec }[] } | null;
  /** Events with a time of day, and ones that could not be read: they close nothing. */
  left: number;
}

/**
 * Reads an iCalendar file (RFC 5545): each all-day event closes its days; one that repeats closes those in the years asked for.
 * @param fromYear repeats are given from this year on
 * @param toYear and up to the end of this one
 * @throws CodedError `ics-format`, `ics-no-dates`, `ics-never-open`, `ics-too-many` or `ics-too-long`
 */
export function readCalendarFile(text: string, fromYear: number, toYear: number): CalendarFile {
  // Counted before it is taken apart, which costs more.
  const begun = text.split(/BEGIN:VEVENT/i).length - 1;
  if (begun > MOST_EVENTS) throw new CodedError('ics-too-many', { count: begun, most: MOST_EVENTS });
  const root = parseIcs(text);
  const events = root.getAllSubcomponents('vevent');
  const days = new Map<string, CalendarDay>();
  const years = [dayFromParts(fromYear, 1, 1), dayFromParts(toYear + 1, 1, 1)] as const;
  const budget = { steps: MOST_STEPS };
  let left = 0;
  for (const event of events) {
    const found = readEvent(event, years, budget);
    if (!found) left++;
    for (const day of found ?? []) if (!days.has(day.date)) days.set(day.date, day);
    if (days.size > MOST_DAYS) throw new CodedError('ics-too-many', { count: days.size, most: MOST_DAYS });
  }
  const weeks = readWeeks(root);
  if (days.size === 0 && !weeks) throw new CodedError('ics-no-dates');
  return { days: [...days.values()].sort((a, b) => (a.date < b.date ? -1 : 1)), weeks, left };
}

/** The first calendar of a file. @throws CodedError `ics-format` or `ics-too-long` */
export function parseIcs(text: string): ICAL.Component {
  if (!/BEGIN:VCALENDAR/i.test(text)) throw new CodedError('ics-format', { detail: 'it has no VCALENDAR' });
  if (text.length > MOST_CHARACTERS || valuesIn(text) > MOST_VALUES) throw new CodedError('ics-too-long');
  try {
    const parsed = ICAL.parse(text) as unknown[];
    // A file may hold several calendars one after the other; the first one counts.
    return new ICAL.Component(Array.isArray(parsed[0]) ? (parsed[0] as unknown[]) : parsed);
  } catch (error) {
    throw new CodedError('ics-format', { detail: (error as Error).message.slice(0, 120) });
  }
}

/** Lines and listed values: what taking a file apart costs. */
function valuesIn(text: string): number {
  let count = 0;
  for (let i = 0; i < text.length; i++) if (text[i] === '\n' || text[i] === ',') count++;
  return count;
}

/** The days of an all-day event; null for one with a time of day or without a date that exists. */
function readEvent(
  event: ICAL.Component,
  [from, until]: readonly [Day, Day],
  budget: Budget
): CalendarDay[] | null {
  const start = dateOf(event, 'dtstart');
  if (start === null || event.getFirstPropertyValue('status') === 'CANCELLED') return null;
  const length = Math.min(LONGEST_EVENT_DAYS, lengthOf(event, start));
  const name = text(event, 'summary').slice(0, 200) || null;
  const intervals = hoursOf(event);
  if (intervals === null) return null;
  const except = new Set(
    event.getAllProperties('exdate').flatMap((property) => property.getValues().map(dayOf))
  );
  const starts = startsOf(event, start, [from - length, until], budget);
  if (!starts) return null;
  spend(budget, starts.length * length);
  return starts
    .filter((day) => !except.has(day))
    .flatMap((day) => Array.from({ length }, (_, i) => ({ date: formatDay(day + i), name, intervals })));
}

/** What is left of the dates that a file may make us go through. */
interface Budget {
  steps: number;
}

/** Rules that an event without a time of day can repeat by, and how many days one step of theirs is at least. */
const STEP_DAYS: Readonly<Partial<Record<string, number>>> = {
  DAILY: 1,
  WEEKLY: 7,
  MONTHLY: 28,
  YEARLY: 365
};

function spend(budget: Budget, steps: number): void {
  budget.steps -= steps;
  if (budget.steps < 0) throw new CodedError('ics-too-long');
}

/** The dates on which an event begins: its own, or those of its rule between two dates. @throws CodedError `ics-too-long` */
function startsOf(
  event: ICAL.Component,
  start: Day,
  [from, until]: readonly [Day, Day],
  budget: Budget
): Day[] | null {
  const rule = event.getFirstProperty('rrule');
  if (!rule) return [start];
  try {
    const recurrence = parseRecurrenceRule(rule.toICALString());
    const stepDays = STEP_DAYS[recurrence.frequency];
    if (stepDays === undefined) return null;
    const utc = zoneNamed('UTC');
    const starts: Day[] = [];
    const before = budget.steps;
    for (const instant of occurrences(recurrence, { day: start, timeMs: 0 }, utc)) {
      spend(budget, 1);
      const day = utc.dayOf(instant);
      if (day >= until) break;
      if (day > from) starts.push(day);
    }
    // One that comes to nothing was followed to the end of all dates.
    if (budget.steps === before) spend(budget, (LAST_DAY - start) / (recurrence.interval * stepDays));
    return starts;
  } catch (error) {
    if (error instanceof CodedError && error.code !== 'ics-too-long') return null;
    throw error;
  }
}

/** DTEND is not included (RFC 5545 §3.6.1); without it, and without DURATION, an all-day event has one day. */
function lengthOf(event: ICAL.Component, start: Day): number {
  const end = dateOf(event, 'dtend');
  if (end !== null) return Math.max(1, end - start);
  const duration = event.getFirstPropertyValue('duration') as ICAL.Duration | null;
  return duration ? Math.max(1, Math.round(duration.toSeconds() / 86_400)) : 1;
}

function dateOf(event: ICAL.Component, name: string): Day | null {
  const value = event.getFirstPropertyValue(name) as ICAL.Time | null;
  return value && typeof value === 'object' && value.isDate ? dayOf(value) : null;
}

function dayOf(value: unknown): Day {
  const { year, month, day } = value as ICAL.Time;
  return dayFromParts(year, month, day);
}

/** Other hours that this product wrote beside an event; none closes the day, null cannot be read. */
function hoursOf(event: ICAL.Component): string[] | null {
  const written = text(event, 'x-early-bell-hours');
  if (written === '') return [];
  try {
    const intervals = written
      .split(/\\,|[,;]/)
      .map((interval) => interval.trim())
      .filter(Boolean);
    parseIntervals(intervals);
    return intervals;
  } catch (error) {
    if (error instanceof CodedError) return null;
    throw error;
  }
}

function readWeeks(root: ICAL.Component): CalendarFile['weeks'] {
  const written = text(root, 'x-early-bell-weeks');
  if (written === '') return null;
  let found: NonNullable<CalendarFile['weeks']>;
  try {
    const weeks = JSON.parse(Buffer.from(written, 'base64url').toString('utf8')) as NonNullable<
      CalendarFile['weeks']
    >;
    parseWeek(weeks.week);
    for (const { week } of weeks.weeks) parseWeek(week);
    found = weeks;
  } catch {
    // Whoever edited that line by hand loses the weeks, not the holidays.
    return null;
  }
  if (![found.week, ...found.weeks.map(({ week }) => week)].every(hasWorkingTime))
    throw new CodedError('ics-never-open', { name: text(root, 'x-wr-calname') || 'without a name' });
  return found;
}

function text(component: ICAL.Component, name: string): string {
  const value = component.getFirstPropertyValue(name);
  return typeof value === 'string' ? value.trim() : '';
}
