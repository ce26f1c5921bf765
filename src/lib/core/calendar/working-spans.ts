import { CodedError } from '../errors.ts';
import {
  FIRST_DAY,
  LAST_DAY,
  MINUTES_PER_DAY,
  MS_PER_DAY,
  MS_PER_MINUTE,
  formatDay,
  type Day
} from '../time/day.ts';
import { FIRST_INSTANT, LAST_INSTANT, type InstantMs, type Zone } from '../time/zone.ts';
import { intervalsOn, type Calendar } from './spec.ts';
import { GOES_ON_DAYS, beyondTheDates } from './working-days.ts';

/** Days compiled on each side of the first instant asked for; doubled whenever an answer lies outside. */
const FIRST_REACH = 40;
const MS_PER_HOUR = 3_600_000;

/**
 * The working intervals of a calendar in a zone as instants, `[open, close)`, ascending and without overlap, with the
 * working milliseconds before each. Both ends are mapped from the wall one by one, so that a night shift over a clock
 * change has the minutes that really pass. The table covers a window that grows when needed.
 */
export class WorkingSpans {
  readonly #calendar: Calendar;
  readonly #zone: Zone;
  #from: Day = 0;
  #until: Day = 0;
  #open: Float64Array = new Float64Array(0);
  #close: Float64Array = new Float64Array(0);
  /** Working ms before interval i, counted from the start of the window. */
  #before: Float64Array = new Float64Array(1);

  constructor(calendar: Calendar, zone: Zone) {
    this.#calendar = calendar;
    this.#zone = zone;
  }

  /** The first instant at or after `instant` inside `[open, close]`: the instant of closing is still inside. NaN when none follows. */
  openAtOrAfter(instant: InstantMs): InstantMs {
    const i = this.#lastOpenAtOrBefore(instant);
    if (i >= 0 && instant <= this.#close[i]!) return instant;
    return this.nextOpening(instant);
  }

  /** The first opening strictly after `instant`; NaN when none follows up to 2200. */
  nextOpening(instant: InstantMs): InstantMs {
    for (;;) {
      const next = this.#lastOpenAtOrBefore(instant) + 1;
      if (next < this.#open.length) return this.#open[next]!;
      if (this.#until > LAST_DAY) return NaN;
      this.#widen(instant);
    }
  }

  /** The last instant at or before `instant` inside `[open, close]` of an interval; NaN when none precedes it. */
  insideAtOrBefore(instant: InstantMs): InstantMs {
    for (;;) {
      const i = this.#lastOpenAtOrBefore(instant);
      if (i >= 0) return Math.min(instant, this.#close[i]!);
      if (this.#from <= FIRST_DAY) return NaN;
      this.#widen(instant);
    }
  }

  /** Working ms in `[from, until)`; 0 when `until` is not after `from`. */
  worked(from: InstantMs, until: InstantMs): number {
    if (!(until > from)) return 0;
    this.#cover(dayOfInstant(from) - 2, dayOfInstant(until) + 3);
    return this.#passedBefore(until) - this.#passedBefore(from);
  }

  #passedBefore(instant: InstantMs): number {
    return this.#passed(this.#lastOpenAtOrBefore(instant), instant);
  }

  /** Working ms before an instant whose last opening is that of interval i; −1 stands for none. */
  #passed(i: number, instant: InstantMs): number {
    if (i < 0) return 0;
    return this.#before[i]! - this.#open[i]! + Math.min(instant, this.#close[i]!);
  }

  /** Whether `instant` lies in `[open, close)` of an interval. */
  contains(instant: InstantMs): boolean {
    const i = this.#lastOpenAtOrBefore(instant);
    return i >= 0 && instant < this.#close[i]!;
  }

  /** The intervals that touch `[from, until)`, as pairs of instants. */
  between(from: InstantMs, until: InstantMs): [open: InstantMs, close: InstantMs][] {
    this.#cover(dayOfInstant(from) - 2, dayOfInstant(until) + 2);
    const found: [InstantMs, InstantMs][] = [];
    for (let i = Math.max(0, this.#lastOpenAtOrBefore(from)); i < this.#open.length; i++) {
      if (this.#open[i]! >= until) break;
      if (this.#close[i]! > from) found.push([this.#open[i]!, this.#close[i]!]);
    }
    return found;
  }

  /**
   * Adds working milliseconds. Forward from outside starts at the next opening, backward at the last closing; a sum
   * that ends exactly at closing is closing, a backward one that ends exactly at opening is opening; 0 from outside
   * moves to the next opening.
   * @throws CodedError `no-working-time` when the calendar has no more, `date-out-of-range` when the dates end first
   */
  offset(instant: InstantMs, workingMs: number): InstantMs {
    const i = this.#lastOpenAtOrBefore(instant);
    const wanted = this.#passed(i, instant) + workingMs;
    const last = this.#open.length - 1;
    // The interval in which the sum ends: forward the first whose end reaches it, so that what ends exactly on closing stays
    // there; backward the first whose end passes it. Both are whole milliseconds, so one search serves.
    const key = workingMs < 0 ? wanted + 1 : wanted;
    if (key > 0 && key <= this.#before[last + 1]! && workingMs !== 0) {
      let low = 0;
      for (let high = last; low < high;) {
        const middle = (low + high + 1) >> 1;
        if (this.#before[middle]! < key) low = middle;
        else high = middle - 1;
      }
      return this.#open[low]! + wanted - this.#before[low]!;
    }
    // The plus says that it is a number. Without it the compiler has to expect anything of a call that it does not inline, and puts
    // the result of the quick way above on the heap too: 16 bytes a call.
    return +this.#offsetBeyond(instant, workingMs, i);
  }

  /** Stays for 0; otherwise the answer lies outside the window: widens it, or says that the dates end. */
  #offsetBeyond(instant: InstantMs, workingMs: number, i: number): InstantMs {
    const stays = workingMs === 0 ? this.#stay(instant, i) : NaN;
    if (!Number.isNaN(stays)) return stays;
    if (workingMs < 0 ? this.#from <= FIRST_DAY : this.#until > LAST_DAY)
      throw this.#runsOut(instant, workingMs);
    this.#widen(instant);
    return this.offset(instant, workingMs);
  }

  /** The dates end while work goes on, or the calendar has no working time left. */
  #runsOut(instant: InstantMs, workingMs: number): CodedError {
    const day = dayOfInstant(instant);
    const last = this.#open[workingMs < 0 ? 0 : this.#open.length - 1];
    const end = workingMs < 0 ? FIRST_DAY : LAST_DAY;
    return last !== undefined && Math.abs(end - dayOfInstant(last)) <= GOES_ON_DAYS
      ? beyondTheDates(workingMs / MS_PER_HOUR, 'working hour', day)
      : new CodedError('no-working-time', { date: formatDay(day) });
  }

  #stay(instant: InstantMs, i: number): InstantMs {
    if (i >= 0 && instant < this.#close[i]!) return instant;
    return i + 1 < this.#open.length ? this.#open[i + 1]! : NaN;
  }

  #lastOpenAtOrBefore(instant: InstantMs): number {
    const day = dayOfInstant(instant);
    if (day - 2 < this.#from || day + 2 >= this.#until) this.#cover(day - 2, day + 3);
    let low = -1;
    let high = this.#open.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#open[middle]! <= instant) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  #widen(instant: InstantMs): void {
    const reach = Math.max(FIRST_REACH, this.#until - this.#from);
    this.#cover(dayOfInstant(instant) - reach, dayOfInstant(instant) + reach);
  }

  #cover(from: Day, until: Day): void {
    if (from >= this.#from && until <= this.#until) return;
    const empty = this.#until === this.#from;
    const wantFrom = Math.max(FIRST_DAY, empty ? from - FIRST_REACH : Math.min(this.#from, from));
    const wantUntil = Math.min(LAST_DAY + 1, empty ? until + FIRST_REACH : Math.max(this.#until, until));
    if (wantFrom !== this.#from || wantUntil !== this.#until) this.#compile(wantFrom, wantUntil);
  }

  #compile(from: Day, until: Day): void {
    const skipped = new Set(this.#zone.skippedDays(from, until));
    const pairs: [InstantMs, InstantMs][] = [];
    for (let day = from; day < until; day++) {
      if (skipped.has(day)) continue;
      for (const { open, close } of intervalsOn(this.#calendar, day))
        pairs.push([this.#onWall(day, open), this.#onWall(day, close)]);
    }
    pairs.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    const joined = pairs.filter(([open, close]) => close > open).reduce(joinOverlap, []);
    this.#open = Float64Array.from(joined, ([open]) => open);
    this.#close = Float64Array.from(joined, ([, close]) => close);
    this.#before = new Float64Array(joined.length + 1);
    for (let i = 0; i < joined.length; i++)
      this.#before[i + 1] = this.#before[i]! + this.#close[i]! - this.#open[i]!;
    this.#from = from;
    this.#until = until;
  }

  /** Midnight at an end is the end of the day, which a zone may have moved; other times follow the gap rule. */
  #onWall(day: Day, minute: number): InstantMs {
    const onDay = minute >= MINUTES_PER_DAY ? day + 1 : day;
    const rest = minute >= MINUTES_PER_DAY ? minute - MINUTES_PER_DAY : minute;
    if (rest === 0) return this.#zone.startOfDay(onDay);
    return this.#zone.instantOf(onDay * MS_PER_DAY + rest * MS_PER_MINUTE);
  }
}

function joinOverlap(
  joined: [InstantMs, InstantMs][],
  [open, close]: [InstantMs, InstantMs]
): [InstantMs, InstantMs][] {
  const last = joined[joined.length - 1];
  if (last && open < last[1]) last[1] = Math.max(last[1], close);
  else joined.push([open, close]);
  return joined;
}

function dayOfInstant(instant: InstantMs): Day {
  return Math.floor(Math.max(FIRST_INSTANT, Math.min(LAST_INSTANT, instant)) / MS_PER_DAY);
}
