import { parseCalendar, type Calendar, type CalendarSpec, type WeekSpec } from '../../core/calendar/spec.ts';
import type { Db } from '../db/open.ts';

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

/** Base calendars: a week, later weeks, and the dates that differ. */
export class CalendarStore {
  readonly #all;
  readonly #days;
  readonly #weeks;
  readonly #rowsOf;
  readonly #weekRowsOf;
  readonly #uses;

  constructor(db: Db) {
    this.#all = db.prepare<[], { id: number; name: string; week: string }>(
      'SELECT id, name, week FROM calendar ORDER BY name, id'
    );
    this.#days = db.prepare<
      [],
      { calendar_id: number; date: string; name: string | null; intervals: string }
    >('SELECT calendar_id, date, name, intervals FROM calendar_day ORDER BY calendar_id, date');
    this.#weeks = db.prepare<[], { calendar_id: number; from_date: string; week: string }>(
      'SELECT calendar_id, from_date, week FROM calendar_week ORDER BY calendar_id, from_date'
    );
    this.#rowsOf = db.prepare<[number], { id: number; date: string; name: string | null; intervals: string }>(
      'SELECT id, date, name, intervals FROM calendar_day WHERE calendar_id = ?'
    );
    this.#weekRowsOf = db.prepare<[number], { id: number; from: string; week: string }>(
      'SELECT id, from_date AS "from", week FROM calendar_week WHERE calendar_id = ?'
    );
    this.#uses = db.prepare<[number, number], { name: string }>(
      `SELECT name FROM person WHERE calendar_id = ? UNION ALL SELECT name FROM project WHERE calendar_id = ?`
    );
  }

  all(): CalendarRecord[] {
    const records = this.#all.all().map(({ id, name, week }): CalendarRecord => ({
      id,
      name,
      week: JSON.parse(week) as WeekSpec,
      weeks: [],
      days: []
    }));
    const byId = new Map(records.map((record) => [record.id, record]));
    for (const { calendar_id, date, name, intervals } of this.#days.all())
      byId.get(calendar_id)?.days.push({ date, name, intervals: JSON.parse(intervals) as string[] });
    for (const { calendar_id, from_date, week } of this.#weeks.all())
      byId.get(calendar_id)?.weeks.push({ from: from_date, week: JSON.parse(week) as WeekSpec });
    return records;
  }

  byId(id: number): CalendarRecord | null {
    return this.all().find((calendar) => calendar.id === id) ?? null;
  }

  /** The rows of a calendar's dates. */
  dayRows(calendarId: number): { id: number; date: string; name: string | null; intervals: string }[] {
    return this.#rowsOf.all(calendarId);
  }

  /** The rows of a calendar's later weeks. */
  weekRows(calendarId: number): { id: number; from: string; week: string }[] {
    return this.#weekRowsOf.all(calendarId);
  }

  /** Names of the people and projects that go by a calendar. */
  usedBy(calendarId: number): string[] {
    return this.#uses.all(calendarId, calendarId).map(({ name }) => name);
  }
}

/** The open form of a record. */
export function toSpec({ week, weeks, days }: Omit<CalendarRecord, 'id' | 'name'>): CalendarSpec {
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
