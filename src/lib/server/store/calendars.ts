import type { CalendarDay, CalendarRecord } from '../../core/calendar/record.ts';
import type { WeekSpec } from '../../core/calendar/spec.ts';
import type { Db } from '../db/open.ts';

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

export type { CalendarDay, CalendarRecord };
