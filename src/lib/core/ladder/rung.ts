import type { LeadTiming, Unit } from '../ring/lead.ts';
import { formatZoned } from '../time/instant.ts';
import type { Trace } from '../ring/why.ts';
import type { Day } from '../time/day.ts';
import type { InstantMs } from '../time/zone.ts';
import { afterWorking, repeatOnClock, rungOnClock, type LadderClock, type RungWall } from './clock.ts';

/** One rung of a ladder, as it holds for a task. */
export interface Rung {
  /** From 1. */
  number: number;
  timing: LeadTiming;
  /** Of the last rung: rings again every n units, at most so often in all. */
  repeat: { n: number; unit: Unit; most: number } | null;
}

/** A ring of a rung. */
export interface RungRing {
  instant: InstantMs;
  /** The date before the closed-day rule. */
  originDay: Day;
}

/** A level of a ladder before the date, and when it rings. */
export interface LevelBefore {
  number: number;
  instant: InstantMs;
}

/** None rings so late that a later one waits for it. */
export const NONE_BEFORE: LevelBefore = { number: 0, instant: -Infinity };

/** Rungs that ring because an acknowledgement has run out, by `number/repeat`, with its end and when they ring. */
export type WokenRungs = ReadonlyMap<string, { wake: InstantMs; at: InstantMs }>;

/**
 * When a rung rings: by the clock of its ladder; the first that would come after an acknowledgement has run out comes at the next opening
 * instead, and those after it by the clock again. Rungs ring in order: one that would come before a lower one rings right after that.
 * @param rungs every rung of the ladder that holds for the task and counts from the start of the clock, the lowest first
 * @param rung one of them; n is not negative
 * @param wokenRungs of the ladder and the task
 * @param before the level before the date that rings last, and when: one that was caught up may ring after it
 * @param wall on whose wall rungs in days ring for this recipient
 * @param k which repeat; 0 is the rung itself
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function rungRing(
  clock: LadderClock,
  rungs: readonly Rung[],
  rung: Rung,
  wokenRungs: WokenRungs,
  before: LevelBefore,
  wall: RungWall,
  k: number,
  trace: Trace = null
): RungRing {
  if (trace) traceStart(clock, wall, trace);
  const own = ownRing(clock, rung, wokenRungs, wall, k, trace);
  let lowest = before;
  for (const lower of rungs) {
    if (lower.number >= rung.number) continue;
    const { instant } = ownRing(clock, lower, wokenRungs, wall, 0, null);
    if (instant > lowest.instant) lowest = { number: lower.number, instant };
  }
  if (!(lowest.instant > own.instant)) return own;
  const at = formatZoned(lowest.instant, wall.zone);
  trace?.push({ code: 'ladder-in-order', params: { rung: rung.number, lower: lowest.number, at } });
  return { instant: lowest.instant, originDay: wall.zone.dayOf(lowest.instant) };
}

/** When a rung rings, whatever lower ones do. */
function ownRing(
  clock: LadderClock,
  rung: Rung,
  wokenRungs: WokenRungs,
  wall: RungWall,
  k: number,
  trace: Trace
): RungRing {
  const woken = wokenRungs.get(`${rung.number}/${k}`);
  if (woken) {
    const at = formatZoned(woken.at, wall.zone);
    trace?.push({
      code: 'ladder-woken',
      params: { rung: rung.number, until: formatZoned(woken.wake, wall.zone), at }
    });
    return { instant: woken.at, originDay: wall.zone.dayOf(woken.at) };
  }
  const ring = plainRing(clock, rung, wall, k);
  if (trace) traceRung(clock, rung, k, ring, wall, trace);
  return ring;
}

/** When a rung rings by the clock alone. */
function plainRing(clock: LadderClock, { timing, repeat }: Rung, wall: RungWall, k: number): RungRing {
  const first = rungOnClock(clock, timing, wall);
  if (k === 0 || !repeat || Number.isNaN(first.instant)) return first;
  return repeatOnClock(clock, first, k, repeat, wall.zone);
}

/**
 * The rungs that are the next one after an acknowledgement that ran out: the lowest that has not rung by then.
 * @param rungs every rung of the ladder that holds for the task and counts from the start of the clock, the lowest first
 * @param wall on whose wall they ring for the owner: which rung comes next is the same for everybody
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function wokenRungs(clock: LadderClock, rungs: readonly Rung[], wall: RungWall): WokenRungs {
  const woken = new Map<string, { wake: InstantMs; at: InstantMs }>();
  for (const wake of clock.wakes) {
    if (wake < clock.startsAt) continue;
    const at = afterWorking(clock, wake, 0);
    if (Number.isNaN(at)) break;
    const next = nextAfter(clock, rungs, wall, wake, woken);
    if (next && next.instant > at) woken.set(next.key, { wake, at });
  }
  return woken;
}

/** The lowest rung, or its first repeat, that rings at an instant or after it. */
function nextAfter(
  clock: LadderClock,
  rungs: readonly Rung[],
  wall: RungWall,
  wake: InstantMs,
  woken: WokenRungs
): { key: string; instant: InstantMs } | null {
  // One that would come before a lower one rings right after that.
  let lowest = -Infinity;
  for (const rung of rungs) {
    const most = rung.repeat?.most ?? 1;
    for (let i = 0; i < most; i++) {
      const key = `${rung.number}/${i}`;
      const plain = woken.get(key)?.at ?? plainRing(clock, rung, wall, i).instant;
      if (Number.isNaN(plain)) break;
      const instant = Math.max(plain, lowest);
      if (i === 0) lowest = instant;
      if (instant >= wake && !woken.has(key)) return { key, instant };
    }
  }
  return null;
}

function traceStart(
  { startsAt, startsBy }: LadderClock,
  { zone }: RungWall,
  trace: NonNullable<Trace>
): void {
  trace.push({ code: 'ladder-start', params: { by: startsBy, at: formatZoned(startsAt, zone) } });
}

function traceRung(
  { pauses, startsAt }: LadderClock,
  { number, timing }: Rung,
  k: number,
  { instant }: RungRing,
  { zone }: RungWall,
  trace: NonNullable<Trace>
): void {
  for (const { from, until, why } of pauses) {
    if (until <= startsAt || from >= (Number.isNaN(instant) ? Infinity : instant)) continue;
    const params = {
      why,
      from: formatZoned(from, zone),
      until: until === Infinity ? '' : formatZoned(until, zone)
    };
    trace.push({ code: 'ladder-pause', params });
  }
  if (Number.isNaN(instant)) return;
  const params = { rung: number, n: timing.n, unit: timing.unit, k, at: formatZoned(instant, zone) };
  trace.push({ code: 'ladder-rung', params });
}
