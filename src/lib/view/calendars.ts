import { dayFromParts, daysInMonth, formatDay, parseDay, weekdayOf, MONTH_NAMES } from '../core/time/day.ts';
import { shortDay } from '../core/time/format.ts';
import { WEEKDAYS, parseInterval, type WeekSpec } from '../core/calendar/spec.ts';
import { CodedError } from '../core/errors.ts';

/** A calendar as it is edited. */
export interface CalendarDraft {
  name: string;
  week: WeekSpec;
  weeks: { from: string; week: WeekSpec }[];
  days: DayDraft[];
}

/** A date that differs from its weekday; no interval is closed. */
export interface DayDraft {
  date: string;
  name: string | null;
  intervals: string[];
}

/** A day of the year view. */
export interface YearDay {
  date: string;
  dayOfMonth: number;
  kind: 'open' | 'closed' | 'holiday' | 'other hours';
  /** What is said of it. */
  words: string;
}

export interface YearMonth {
  name: string;
  /** Empty cells before the first, with weeks from Monday. */
  lead: number;
  days: YearDay[];
}

/** A year of a calendar, month by month. */
export function yearOf(draft: CalendarDraft, year: number): YearMonth[] {
  const days = new Map(draft.days.map((day) => [day.date, day]));
  return MONTH_NAMES.map((name, i) => {
    const first = dayFromParts(year, i + 1, 1);
    return {
      name,
      lead: weekdayOf(first),
      days: Array.from({ length: daysInMonth(year, i + 1) }, (_, n): YearDay => {
        const date = formatDay(first + n);
        const exception = days.get(date);
        const weekly = weekHolding(draft, date)[WEEKDAYS[weekdayOf(first + n)]!] ?? [];
        const intervals = exception?.intervals ?? weekly;
        const kind = exception
          ? intervals.length === 0
            ? 'holiday'
            : 'other hours'
          : weekly.length === 0
            ? 'closed'
            : 'open';
        const hours = intervals.length === 0 ? 'closed' : intervals.join(', ');
        return {
          date,
          dayOfMonth: n + 1,
          kind,
          words: exception?.name ? `${exception.name}, ${hours}` : hours
        };
      })
    };
  });
}

/** A year of a calendar in one line. Days count from 0, the first of January. */
export interface YearStripView {
  year: number;
  /** How many days it has. */
  length: number;
  /** Runs of open weekdays: the first, and how many. */
  open: [from: number, length: number][];
  /** Days that differ from their weekday. */
  special: { at: number; closed: boolean; words: string }[];
  /** The first of each month but January. */
  months: number[];
  today: number | null;
}

/** A year of a calendar as a strip. @param today `2026-03-05`; it is marked where it lies in the year */
export function stripOf(draft: CalendarDraft, year: number, today: string): YearStripView {
  const months = yearOf(draft, year);
  const days = months.flatMap(({ days: of }) => of);
  const open: [number, number][] = [];
  days.forEach(({ kind }, at) => {
    if (kind === 'closed') return;
    const last = open.at(-1);
    if (last && last[0] + last[1] === at) last[1]++;
    else open.push([at, 1]);
  });
  const special = days.flatMap(({ kind, date, words }, at) =>
    kind === 'holiday' || kind === 'other hours'
      ? [{ at, closed: kind === 'holiday', words: `${shortDay(parseDay(date))}: ${words}` }]
      : []
  );
  const starts = days.flatMap(({ dayOfMonth }, at) => (dayOfMonth === 1 && at > 0 ? [at] : []));
  const at = days.findIndex(({ date }) => date === today);
  return { year, length: days.length, open, special, months: starts, today: at < 0 ? null : at };
}

/** The week that holds on a date. */
function weekHolding({ week, weeks }: CalendarDraft, date: string): WeekSpec {
  const later = weeks.filter(({ from }) => from <= date).sort((a, b) => (a.from < b.from ? 1 : -1));
  return later[0]?.week ?? week;
}

/** The days with some others in their place or added, by date. */
export function withDays(days: readonly DayDraft[], others: readonly DayDraft[]): DayDraft[] {
  const kept = new Map([...days, ...others].map((day) => [day.date, day]));
  return [...kept.values()].sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** What differs between two versions of a calendar, in words. */
export function differences(before: CalendarDraft, after: CalendarDraft): string[] {
  const said: string[] = [];
  if (before.name !== after.name) said.push(`its name: ${before.name} → ${after.name}`);
  if (JSON.stringify(before.week) !== JSON.stringify(after.week)) said.push('its week');
  const weeks = (draft: CalendarDraft) =>
    new Map(draft.weeks.map(({ from, week }) => [from, JSON.stringify(week)]));
  const [weeksBefore, weeksAfter] = [weeks(before), weeks(after)];
  for (const [from, week] of weeksAfter)
    if (weeksBefore.get(from) !== week)
      said.push(`the week from ${from}${weeksBefore.has(from) ? '' : ', new'}`);
  for (const from of weeksBefore.keys())
    if (!weeksAfter.has(from)) said.push(`the week from ${from}, removed`);
  const words = (day: DayDraft | undefined) =>
    day ? `${day.name ?? 'no name'}, ${day.intervals.join(', ') || 'closed'}` : 'same as its weekday';
  const [daysBefore, daysAfter] = [
    new Map(before.days.map((day) => [day.date, day])),
    new Map(after.days.map((day) => [day.date, day]))
  ];
  for (const date of [...new Set([...daysBefore.keys(), ...daysAfter.keys()])].sort()) {
    const [was, is] = [words(daysBefore.get(date)), words(daysAfter.get(date))];
    if (was !== is) said.push(`${date}: ${was} → ${is}`);
  }
  return said;
}

/** Intervals as people type them, `9:00-13:00, 14-18`; what is wrong is said. */
export function typedIntervals(text: string): { intervals: string[]; error: string | null } {
  const intervals = text
    .split(/[,;]/)
    .map((piece) => piece.trim())
    .filter(Boolean)
    .map((piece) => {
      const [from = '', to = ''] = piece.split(/–|-|to/).map((end) => end.trim());
      return `${padded(from)}-${padded(to)}`;
    });
  try {
    intervals.forEach(parseInterval);
    return { intervals, error: null };
  } catch (error) {
    if (error instanceof CodedError) return { intervals, error: error.message };
    throw error;
  }
}

function padded(time: string): string {
  const match = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(time.trim());
  return match ? `${match[1]!.padStart(2, '0')}:${match[2] ?? '00'}` : time;
}
