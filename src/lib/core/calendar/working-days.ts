import { CodedError } from '../errors.ts';
import { FIRST_DAY, LAST_DAY, checkDay, formatDay, weekdayOf, type Day } from '../time/day.ts';
import type { Zone } from '../time/zone.ts';
import type { Calendar } from './spec.ts';

/** Days compiled on each side of the first day asked for; doubled whenever an answer lies outside. */
const FIRST_REACH = 400;

/** A calendar whose last working day lies so close to the end of the dates goes on: it is the dates that end. */
export const GOES_ON_DAYS = 400;

/**
 * The working days of a calendar, compiled to prefix tables so that counting and stepping are array reads. A working
 * day is a date on which an interval starts; a date that the zone skipped is none. The tables cover a window that
 * grows when needed, so that a calendar used once costs little and one used a million times is compiled once.
 */
export class WorkingDays {
  readonly calendar: Calendar;
  readonly #zone: Zone;
  #from: Day = 0;
  #until: Day = 0;
  /** `#passed[d - #from]`: working days in `[#from, d)`. */
  #passed: Int32Array = new Int32Array(1);
  /** `#nth[i]`: the i-th working day of the window. */
  #nth: Int32Array = new Int32Array(0);

  constructor(calendar: Calendar, zone: Zone) {
    this.calendar = calendar;
    this.#zone = zone;
  }

  /** Whether work starts on that date. */
  isWorking(day: Day): boolean {
    if (day < this.#from || day >= this.#until) this.#cover(checkDay(day), day + 1);
    const i = day - this.#from;
    return this.#passed[i + 1]! > this.#passed[i]!;
  }

  /** Working days in `[from, until)`; negative when `until` is before `from`. */
  count(from: Day, until: Day): number {
    if (from < this.#from || from > this.#until || until < this.#from || until > this.#until) {
      this.#cover(Math.min(from, until), Math.max(from, until));
    }
    return this.#passed[until - this.#from]! - this.#passed[from - this.#from]!;
  }

  /**
   * The n-th working day strictly after (n > 0) or strictly before (n < 0) a day; n = 0 gives the day itself.
   * @throws CodedError `no-working-time` when the calendar has no more, `date-out-of-range` when the dates end first
   */
  offset(day: Day, n: number): Day {
    if (n === 0) return day;
    const i = day - this.#from;
    if (i >= 0 && i < this.#passed.length - 1) {
      // Counted on from the working days up to and with the date (n > 0), or before it (n < 0). Chosen by arithmetic:
      // on mixed signs a branch costs twice as much as all the rest.
      const back = n >> 31;
      const index = this.#passed[i + 1 + back]! + n - 1 - back;
      if (index >= 0 && index < this.#nth.length) return this.#nth[index]!;
    }
    return this.#offsetBeyond(checkDay(day), n);
  }

  /** The same where the answer may lie outside the window: widens it until the answer is in it, or the dates end. */
  #offsetBeyond(day: Day, n: number): Day {
    for (;;) {
      if (day >= this.#from && day < this.#until) {
        const passed = n > 0 ? this.#passed[day + 1 - this.#from]! : this.#passed[day - this.#from]!;
        const index = n > 0 ? passed + n - 1 : passed + n;
        if (index >= 0 && index < this.#nth.length) return this.#nth[index]!;
        if (n > 0 ? this.#until > LAST_DAY : this.#from <= FIRST_DAY) throw this.#runsOut(day, n);
      }
      this.#widen(day);
    }
  }

  /** The dates end while work goes on, or the calendar has no working time left. */
  #runsOut(day: Day, n: number): CodedError {
    const last = this.#nth[n > 0 ? this.#nth.length - 1 : 0];
    const end = n > 0 ? LAST_DAY : FIRST_DAY;
    return last !== undefined && Math.abs(end - last) <= GOES_ON_DAYS
      ? beyondTheDates(n, 'working day', day)
      : noWorkingTime(day);
  }

  /** The first working day at or after (`step` 1) or at or before (`step` −1) a day. */
  roll(day: Day, step: 1 | -1): Day {
    return this.isWorking(day) ? day : this.offset(day, step);
  }

  #widen(day: Day): void {
    const reach = this.#until > this.#from ? this.#until - this.#from : FIRST_REACH;
    this.#cover(day - reach, day + reach + 1);
  }

  #cover(from: Day, until: Day): void {
    const empty = this.#until === this.#from;
    this.#compile(
      Math.max(FIRST_DAY, empty ? from - FIRST_REACH : Math.min(this.#from, from)),
      Math.min(LAST_DAY + 1, empty ? until + FIRST_REACH : Math.max(this.#until, until))
    );
  }

  #compile(from: Day, until: Day): void {
    const open = new Uint8Array(until - from);
    const { weeks } = this.calendar;
    weeks.forEach(({ from: weekFrom, week }, i) => {
      const start = Math.max(from, weekFrom);
      const end = Math.min(until, weeks[i + 1]?.from ?? Infinity);
      const openOn = week.map((intervals) => intervals.length > 0);
      for (let day = start, weekday = weekdayOf(start); day < end; day++) {
        open[day - from] = openOn[weekday] ? 1 : 0;
        weekday = weekday === 6 ? 0 : weekday + 1;
      }
    });
    for (const [day, { intervals }] of this.calendar.exceptions) {
      if (day >= from && day < until) open[day - from] = intervals.length > 0 ? 1 : 0;
    }
    for (const day of this.#zone.skippedDays(from, until)) open[day - from] = 0;

    const passed = new Int32Array(open.length + 1);
    const nth = new Int32Array(open.length);
    let working = 0;
    for (let i = 0; i < open.length; i++) {
      if (open[i]) nth[working++] = from + i;
      passed[i + 1] = working;
    }
    this.#from = from;
    this.#until = until;
    this.#passed = passed;
    this.#nth = nth.subarray(0, working);
  }
}

/** So much of something from a date lies where no dates are handled any more. */
export function beyondTheDates(n: number, unit: string, from: Day): CodedError {
  const count = Math.abs(n);
  const words = `${count} ${count === 1 ? unit : `${unit}s`} ${n < 0 ? 'before' : 'after'} ${formatDay(from)}`;
  return new CodedError('date-out-of-range', { value: words });
}

function noWorkingTime(day: Day): CodedError {
  return new CodedError('no-working-time', { date: formatDay(day) });
}
