import { hasWorkingTime } from '../../core/calendar/spec.ts';
import { CodedError } from '../../core/errors.ts';
import { writeCalendarFile } from '../in-out/write/calendar-ics.ts';
import { countries, publicHolidays, regionsOf, type Holiday, type Region } from '../in-out/read/holidays.ts';
import type { CalendarInput } from './schema.ts';
import type { CalendarRecord } from '../store/calendars.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** What is done with calendars. */
export class CalendarService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** @throws CodedError `calendar-never-open` */
  add(actor: Actor, input: CalendarInput): Committed<number> {
    this.check(input);
    return this.#committer.commit(actor, `Calendar “${input.name}” added`, (writer) => {
      const id = writer.insert('calendar', { name: input.name, week: JSON.stringify(input.week) });
      this.#write(writer, id, input);
      return id;
    });
  }

  /** @throws CodedError `calendar-gone` or `calendar-never-open` */
  save(actor: Actor, id: number, input: CalendarInput): Committed<void> {
    this.need(id);
    this.check(input);
    return this.#committer.commit(actor, `Calendar “${input.name}” changed`, (writer) => {
      writer.update('calendar', id, { name: input.name, week: JSON.stringify(input.week) });
      this.#write(writer, id, input);
    });
  }

  /** @throws CodedError `calendar-gone` or `calendar-in-use` */
  remove(actor: Actor, id: number): Committed<void> {
    const { name } = this.need(id);
    const users = this.#users(id);
    if (users.length > 0) throw new CodedError('calendar-in-use', { names: some(users) });
    return this.#committer.commit(actor, `Calendar “${name}” removed`, (writer) => {
      for (const row of this.#stores.calendars.dayRows(id)) writer.remove('calendar_day', row.id);
      for (const row of this.#stores.calendars.weekRows(id)) writer.remove('calendar_week', row.id);
      writer.remove('calendar', id);
    });
  }

  /** Every calendar has working time in each of its weeks: whoever came to go by one without could not be told of anything. @throws CodedError `calendar-never-open` */
  check({ name, week, weeks }: CalendarInput): void {
    if (![week, ...weeks.map((later) => later.week)].every(hasWorkingTime))
      throw new CodedError('calendar-never-open', { name });
  }

  need(id: number): CalendarRecord {
    const calendar = this.#stores.calendars.byId(id);
    if (!calendar) throw new CodedError('calendar-gone');
    return calendar;
  }

  countries(): Region[] {
    return countries();
  }

  regionsOf(country: string): Region[] {
    return regionsOf(country);
  }

  /** @throws CodedError `region-unknown` */
  publicHolidays(region: string, fromYear: number, toYear: number): Holiday[] {
    return publicHolidays(region, fromYear, toYear);
  }

  writeFile(id: number, at: Date): string {
    return writeCalendarFile(this.need(id), at);
  }

  #users(id: number): string[] {
    const users = this.#stores.calendars.usedBy(id);
    return this.#stores.settings.workspace()?.calendarId === id ? ['the workspace', ...users] : users;
  }

  /** Writes the rows that differ. */
  #write(writer: ChangeWriter, id: number, { weeks, days }: CalendarInput): void {
    const wantedDays = new Map(days.map((day) => [day.date, day]));
    for (const row of this.#stores.calendars.dayRows(id)) {
      const wanted = wantedDays.get(row.date);
      if (!wanted) writer.remove('calendar_day', row.id);
      else {
        writer.update('calendar_day', row.id, {
          name: wanted.name,
          intervals: JSON.stringify(wanted.intervals)
        });
        wantedDays.delete(row.date);
      }
    }
    for (const { date, name, intervals } of wantedDays.values())
      writer.insert('calendar_day', { calendar_id: id, date, name, intervals: JSON.stringify(intervals) });
    const wantedWeeks = new Map(weeks.map((week) => [week.from, week]));
    for (const row of this.#stores.calendars.weekRows(id)) {
      const wanted = wantedWeeks.get(row.from);
      if (!wanted) writer.remove('calendar_week', row.id);
      else {
        writer.update('calendar_week', row.id, { week: JSON.stringify(wanted.week) });
        wantedWeeks.delete(row.from);
      }
    }
    for (const { from, week } of wantedWeeks.values())
      writer.insert('calendar_week', { calendar_id: id, from_date: from, week: JSON.stringify(week) });
  }
}

/** A few names, and how many more. */
function some(names: readonly string[]): string {
  return names.length <= 4
    ? names.join(', ')
    : `${names.slice(0, 4).join(', ')} and ${names.length - 4} more`;
}
