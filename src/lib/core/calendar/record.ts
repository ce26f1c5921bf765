import { parseCalendar, type Calendar, type CalendarSpec, type WeekSpec } from './spec.ts';

/** A date with other hours than its weekday's; no interval is closed. */
export interface CalendarDay {
  date: string;
  name: string | null;
  intervals: string[];
}

export interface CalendarRecord {
  id: number;
  name: string;
  week: WeekSpec;
  /** Other weeks, each from a date on, ascending. */
  weeks: { from: string; week: WeekSpec }[];
  days: CalendarDay[];
}

/** The open form of a record. */
function toSpec({ week, weeks, days }: Omit<CalendarRecord, 'id' | 'name'>): CalendarSpec {
  const closed = days.filter(({ intervals }) => intervals.length === 0);
  return {
    week,
    weeks,
    closed: closed.map(({ date, name }) => (name === null ? date : { date, name })),
    hours: Object.fromEntries(
      days.flatMap(({ date, intervals }) => (intervals.length > 0 ? [[date, intervals]] : []))
    )
  };
}

/** The calendar that a record stands for. */
export function toCalendar(record: Omit<CalendarRecord, 'id' | 'name'>): Calendar {
  return parseCalendar(toSpec(record));
}
