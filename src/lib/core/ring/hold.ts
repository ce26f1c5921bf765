import { MINUTES_PER_DAY, MS_PER_DAY, MS_PER_MINUTE, type Day } from '../time/day.ts';
import { ceilToMinute, instantOnWall } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { Interval } from '../calendar/spec.ts';
import type { WorkingSpans } from '../calendar/working-spans.ts';

/** When a person may be told. Working hours are those of the recipient's base calendar in the recipient's zone. */
export type Reach =
  | { kind: 'any' }
  | { kind: 'working'; spans: WorkingSpans }
  | { kind: 'quiet'; zone: Zone; quiet: readonly Interval[] };

export const ANY_TIME: Reach = { kind: 'any' };

/** A hold longer than this ends the notice as never reachable. */
export const LONGEST_HOLD_DAYS = 370;

/**
 * Step 6: the first instant at or after `instant` at which the recipient can be reached; NaN when that is more than
 * 370 days away. The instant of closing and the end of quiet are inside reach, the start of quiet is not.
 */
export function holdUntilReach(instant: InstantMs, reach: Reach): InstantMs {
  if (reach.kind === 'any') return instant;
  const reached =
    reach.kind === 'working'
      ? reach.spans.openAtOrAfter(instant)
      : afterQuiet(instant, reach.zone, reach.quiet);
  return withinHold(instant, reached);
}

/**
 * The next opening: the first minute of an interval of reach strictly after `instant`; NaN as above. With reach at any
 * time the openings are those of `base`, the recipient's working hours.
 */
export function nextOpening(instant: InstantMs, reach: Reach, base: WorkingSpans): InstantMs {
  if (reach.kind !== 'quiet') {
    return withinHold(instant, (reach.kind === 'working' ? reach.spans : base).nextOpening(instant));
  }
  const ends = quietAround(instant, reach.zone, reach.quiet, 2).map(([, end]) => end);
  const next = Math.min(
    ...ends.filter((end) => end > instant && afterQuiet(end, reach.zone, reach.quiet) === end)
  );
  return Number.isFinite(next) ? next : NaN;
}

/**
 * The first instant at or after `instant` inside an interval of reach, `[open, close)`: unlike a hold it does not stop at the
 * instant of closing. NaN when none follows.
 */
export function firstInReach(instant: InstantMs, reach: Reach): InstantMs {
  if (reach.kind === 'any') return instant;
  if (reach.kind === 'quiet') return afterQuiet(instant, reach.zone, reach.quiet);
  return reach.spans.contains(instant) ? instant : reach.spans.nextOpening(instant);
}

/** The last whole minute at or before `instant` that is inside reach, the instant of closing included; NaN when there is none. */
export function lastInReach(instant: InstantMs, reach: Reach): InstantMs {
  if (reach.kind === 'any') return floorToMinute(instant);
  if (reach.kind === 'working') return floorToMinute(reach.spans.insideAtOrBefore(instant));
  return beforeQuiet(floorToMinute(instant), reach.zone, reach.quiet);
}

function floorToMinute(instant: InstantMs): InstantMs {
  return Math.floor(instant / MS_PER_MINUTE) * MS_PER_MINUTE;
}

function beforeQuiet(instant: InstantMs, zone: Zone, quiet: readonly Interval[]): InstantMs {
  let at = instant;
  for (let step = 0; step <= 3 * LONGEST_HOLD_DAYS; step++) {
    const inside = quietAround(at, zone, quiet, 1).find(([start, end]) => start <= at && at < end);
    if (!inside) return at;
    at = floorToMinute(inside[0] - 1);
  }
  return NaN;
}

function withinHold(from: InstantMs, to: InstantMs): InstantMs {
  if (to === from) return from;
  return to - from <= LONGEST_HOLD_DAYS * MS_PER_DAY ? ceilToMinute(to) : NaN;
}

/** Follows quiet intervals that touch each other to the end of the last. */
function afterQuiet(instant: InstantMs, zone: Zone, quiet: readonly Interval[]): InstantMs {
  let at = instant;
  for (let step = 0; step <= 3 * LONGEST_HOLD_DAYS; step++) {
    const inside = quietAround(at, zone, quiet, 1).find(([start, end]) => start <= at && at < end);
    if (!inside) return at;
    at = inside[1];
  }
  return NaN;
}

/** The quiet intervals that start from the day before to `days` after, as instants. */
function quietAround(
  instant: InstantMs,
  zone: Zone,
  quiet: readonly Interval[],
  days: number
): [InstantMs, InstantMs][] {
  const today = zone.dayOf(instant);
  const found: [InstantMs, InstantMs][] = [];
  for (let day: Day = today - 1; day <= today + days; day++) {
    for (const { open, close } of quiet) found.push([onWall(day, open, zone), onWall(day, close, zone)]);
  }
  return found;
}

function onWall(day: Day, minute: number, zone: Zone): InstantMs {
  return minute >= MINUTES_PER_DAY
    ? instantOnWall(day + 1, minute - MINUTES_PER_DAY, zone)
    : instantOnWall(day, minute, zone);
}
