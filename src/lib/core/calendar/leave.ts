import { CodedError, withField } from '../errors.ts';
import { instantOnWall, parseMoment } from '../time/instant.ts';
import { parseDay } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** A stretch of leave as written: both days included; a half day has a time, `2026-03-09T13:00`. */
export interface LeaveSpec {
  from: string;
  to: string;
}

/** A person's leave as instants, `[from, to)`, ascending; stretches that touch are joined. */
export class Leave {
  readonly #from: Float64Array;
  readonly #to: Float64Array;

  constructor(spans: readonly (readonly [from: InstantMs, to: InstantMs])[]) {
    const joined: [InstantMs, InstantMs][] = [];
    for (const [from, to] of [...spans].sort((a, b) => a[0] - b[0])) {
      const last = joined[joined.length - 1];
      if (last && from <= last[1]) last[1] = Math.max(last[1], to);
      else joined.push([from, to]);
    }
    this.#from = Float64Array.from(joined, ([from]) => from);
    this.#to = Float64Array.from(joined, ([, to]) => to);
  }

  /** The end of the leave that covers an instant; NaN when none does. */
  endOf(instant: InstantMs): InstantMs {
    const i = this.#lastFromAtOrBefore(instant);
    return i >= 0 && instant < this.#to[i]! ? this.#to[i]! : NaN;
  }

  /** The beginning of the leave that covers an instant; NaN when none does. */
  startOf(instant: InstantMs): InstantMs {
    const i = this.#lastFromAtOrBefore(instant);
    return i >= 0 && instant < this.#to[i]! ? this.#from[i]! : NaN;
  }

  /** Every stretch of it, `[from, until)`. */
  get stretches(): [from: InstantMs, until: InstantMs][] {
    return Array.from(this.#from, (from, i) => [from, this.#to[i]!]);
  }

  covers(instant: InstantMs): boolean {
    return !Number.isNaN(this.endOf(instant));
  }

  /** What is left of some intervals, `[open, close)` and ascending, when the leave is cut out of them. */
  cutOutOf(
    intervals: readonly (readonly [open: InstantMs, close: InstantMs])[]
  ): [open: InstantMs, close: InstantMs][] {
    const left: [InstantMs, InstantMs][] = [];
    for (const [open, close] of intervals) {
      let at = open;
      for (let i = 0; i < this.#from.length; i++) {
        if (this.#to[i]! <= at || this.#from[i]! >= close) continue;
        if (this.#from[i]! > at) left.push([at, this.#from[i]!]);
        at = Math.max(at, this.#to[i]!);
      }
      if (at < close) left.push([at, close]);
    }
    return left;
  }

  #lastFromAtOrBefore(instant: InstantMs): number {
    let low = -1;
    let high = this.#from.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#from[middle]! <= instant) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

export const NO_LEAVE = new Leave([]);

/**
 * Reads leave in a person's zone: a date begins with its first instant and ends with its last, a time is itself.
 * @throws CodedError at `N.from` or `N.to`; `leave-order` when an end is not after its beginning
 */
export function parseLeave(entries: readonly LeaveSpec[], zone: Zone): Leave {
  return new Leave(leaveSpans(entries, zone));
}

/** The same, each entry by itself: `[from, until)`. */
export function leaveSpans(
  entries: readonly LeaveSpec[],
  zone: Zone
): (readonly [from: InstantMs, until: InstantMs])[] {
  return entries.map(({ from, to }, i) =>
    withField(String(i), () => {
      const start = withField('from', () => edge(from, zone, 'start'));
      const end = withField('to', () => edge(to, zone, 'end'));
      if (end < start || (end === start && !isSkippedDay(from, to, zone)))
        throw new CodedError('leave-order', { from, to }, 'to');
      return [start, end] as const;
    })
  );
}

/** Leave of whole days that the zone jumped over takes nothing from anybody. */
function isSkippedDay(from: string, to: string, zone: Zone): boolean {
  if (from.includes('T') || to.includes('T')) return false;
  const [first, last] = [parseDay(from), parseDay(to)];
  return first <= last && zone.skippedDays(first, last + 1).length === last + 1 - first;
}

function edge(text: string, zone: Zone, side: 'start' | 'end'): InstantMs {
  if (!text.includes('T'))
    return side === 'start' ? zone.startOfDay(parseDay(text)) : zone.endOfDay(parseDay(text));
  const { day, minute, zone: own } = parseMoment(text, zone);
  return instantOnWall(day, minute!, own ?? zone);
}
