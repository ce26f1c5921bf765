import { parseIntervals, parseWeek, type Calendar, type WeekSpec } from '../../core/calendar/spec.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Db } from '../db/open.ts';

export interface CalendarRecord {
  id: number;
  name: string;
  week: WeekSpec;
  days: { date: string; name: string | null; intervals: string[] }[];
}

export class CalendarStore {
  readonly #all;
  readonly #days;

  constructor(db: Db) {
    this.#all = db.prepare<[], { id: number; name: string; week: string }>(
      'SELECT id, name, week FROM calendar ORDER BY name, id'
    );
    this.#days = db.prepare<
      [],
      { calendar_id: number; date: string; name: string | null; intervals: string }
    >('SELECT calendar_id, date, name, intervals FROM calendar_day ORDER BY calendar_id, date');
  }

  all(): CalendarRecord[] {
    const records = this.#all.all().map(({ id, name, week }) => ({
      id,
      name,
      week: JSON.parse(week) as WeekSpec,
      days: [] as CalendarRecord['days']
    }));
    const byId = new Map(records.map((record) => [record.id, record]));
    for (const { calendar_id, date, name, intervals } of this.#days.iterate()) {
      byId.get(calendar_id)?.days.push({ date, name, intervals: JSON.parse(intervals) as string[] });
    }
    return records;
  }
}

/** The calendar that a record stands for. */
export function toCalendar({ week, days }: CalendarRecord): Calendar {
  return {
    weeks: [{ from: -Infinity, week: parseWeek(week) }],
    exceptions: new Map(
      days.map(({ date, name, intervals }) => [
        parseDay(date),
        { name, intervals: parseIntervals(intervals) }
      ])
    )
  };
}
