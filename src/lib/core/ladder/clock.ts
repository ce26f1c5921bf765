import type { CompiledCalendar } from '../calendar/compiled.ts';
import { closedDay } from '../ring/closed-day.ts';
import { isWorkingTime, type LeadTiming, type Unit } from '../ring/lead.ts';
import { elapsedMs } from '../ring/offset.ts';
import { workedLessPauses } from '../ring/overdue.ts';
import { MS_PER_DAY, MS_PER_MINUTE, checkDay, type Day } from '../time/day.ts';
import { ceilToMinute, instantOnWall } from '../time/instant.ts';
import type { MinuteOfDay } from '../time/time-of-day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { LadderPause } from './pauses.ts';

/** What the clock of a ladder started by. */
export type LadderStart = 'due' | 'created' | 're-dated' | 'assigned';

/**
 * The clock by which a late task climbs: working time of the first owner's base calendar from the later of the due moment and the moment
 * at which the task was created, re-dated or came to its owner. It stands still in pauses.
 */
export interface LadderClock {
  startsAt: InstantMs;
  startsBy: LadderStart;
  /** The date after which days are counted: the due date as written, or the date of a later start where its owner is. */
  originDay: Day;
  calendar: CompiledCalendar;
  /** Apart from each other, in order; `until` is Infinity for one whose end is not known. */
  pauses: readonly LadderPause[];
  /** Ends of acknowledgements that ran out: from each of them the next rung rings at the next opening. Ascending. */
  wakes: readonly InstantMs[];
}

/** On whose wall a rung in days rings, and when it names no time. */
export interface RungWall {
  zone: Zone;
  noticeMinute: MinuteOfDay;
}

/** Units in which rungs are counted. */
export const RUNG_UNITS: readonly Unit[] = ['workminute', 'workhour', 'workday', 'day'];

/** The pause that an instant lies in, `[from, until)`; null while the clock runs. */
export function pauseAt({ pauses }: Pick<LadderClock, 'pauses'>, at: InstantMs): LadderPause | null {
  return pauses.find(({ from, until }) => from <= at && at < until) ?? null;
}

/**
 * The pause that a ring at an instant falls into; null where it rings. What comes in the very instant in which a pause begins has come before
 * it, unless the clock itself starts in the pause.
 */
export function pauseOfRing(
  { pauses, startsAt }: Pick<LadderClock, 'pauses' | 'startsAt'>,
  at: InstantMs
): LadderPause | null {
  const pause = pauseAt({ pauses }, at);
  return pause && (pause.from < at || pause.from <= startsAt) ? pause : null;
}

/**
 * The instant by which so much working time has passed since another. A sum that would end in a pause ends at the first opening after it;
 * one that ends exactly at closing is closing.
 * @param from in ms
 * @param workingMs not negative; 0 is the first working moment
 * @returns NaN when the clock stands still for a time whose end is not known
 * @throws CodedError `no-working-time`
 */
export function afterWorking(
  { calendar: { spans }, pauses }: Pick<LadderClock, 'calendar' | 'pauses'>,
  from: InstantMs,
  workingMs: number
): InstantMs {
  let [at, left] = [from, workingMs];
  for (const { from: stops, until } of pauses) {
    if (until <= at) continue;
    if (at < stops) {
      const reached = spans.offset(at, left);
      // A sum that ends in the instant in which a pause begins has ended before it.
      if (reached <= stops) return reached;
      left -= spans.worked(at, stops);
    }
    if (until === Infinity) return NaN;
    at = until;
  }
  return spans.offset(at, left);
}

/**
 * When a rung of a ladder rings by its clock alone. Days are counted as they come on which the clock runs at the rung's time of day.
 * @param timing n is not negative
 * @returns the instant in ms and the date before the closed-day rule; NaN where the clock stands still for good
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function rungOnClock(
  clock: LadderClock,
  timing: LeadTiming,
  { zone, noticeMinute }: RungWall
): { instant: InstantMs; originDay: Day } {
  if (isWorkingTime(timing.unit)) {
    const workingMs = timing.n * elapsedMs(timing.unit);
    return momentOf(afterWorking(clock, clock.startsAt, workingMs), zone);
  }
  return afterDays(clock, clock.originDay, timing, timing.minute ?? noticeMinute, zone);
}

/**
 * The k-th repeat of a rung, counted from the rung itself: in days from its date before the closed-day rule, like every repeat.
 * @param first the ring of the rung
 */
export function repeatOnClock(
  clock: LadderClock,
  first: { instant: InstantMs; originDay: Day },
  k: number,
  repeat: { n: number; unit: Unit },
  zone: Zone
): { instant: InstantMs; originDay: Day } {
  if (isWorkingTime(repeat.unit))
    return momentOf(afterWorking(clock, first.instant, k * repeat.n * elapsedMs(repeat.unit)), zone);
  const local = zone.localOf(first.instant);
  const minute = Math.floor((local - Math.floor(local / MS_PER_DAY) * MS_PER_DAY) / MS_PER_MINUTE);
  const timing: LeadTiming = { n: k * repeat.n, unit: repeat.unit, closedDay: 'later', minute };
  return afterDays(clock, first.originDay, timing, minute, zone);
}

function momentOf(at: InstantMs, zone: Zone): { instant: InstantMs; originDay: Day } {
  if (Number.isNaN(at)) return { instant: NaN, originDay: 0 };
  return { instant: ceilToMinute(at), originDay: checkDay(zone.dayOf(at)) };
}

function afterDays(
  clock: LadderClock,
  origin: Day,
  { n, unit, closedDay: rule }: LeadTiming,
  minute: MinuteOfDay,
  zone: Zone
): { instant: InstantMs; originDay: Day } {
  const { days } = clock.calendar;
  const at = (day: Day) => instantOnWall(day, minute, zone);
  const next = (day: Day) => (unit === 'workday' ? days.offset(day, 1) : day + 1);
  // The day of the start itself is one of them where nothing is counted.
  let day = n === 0 && (unit === 'day' || days.isWorking(origin)) ? origin : next(origin);
  for (let left = Math.max(n, 1); ; day = next(day)) {
    const pause = pauseOfRing(clock, at(checkDay(day)));
    if (pause?.until === Infinity) return { instant: NaN, originDay: 0 };
    // On to the last day of a long pause at once.
    if (pause) day = Math.max(day, zone.dayOf(pause.until) - 1);
    else if (at(day) >= clock.startsAt && --left === 0) break;
  }
  const originDay = day;
  day = closedDay(day, rule, n, days);
  while (!Number.isNaN(day) && (at(checkDay(day)) < clock.startsAt || pauseOfRing(clock, at(day)))) {
    const pause = pauseOfRing(clock, at(day));
    if (pause?.until === Infinity) return { instant: NaN, originDay: 0 };
    day = days.offset(pause ? Math.max(day, zone.dayOf(pause.until) - 1) : day, 1);
  }
  return { instant: Number.isNaN(day) ? NaN : ceilToMinute(at(day)), originDay };
}

/** Working time in ms that has passed on the clock by an instant. */
export function workedOn({ startsAt, calendar, pauses }: LadderClock, at: InstantMs): number {
  if (at <= startsAt) return 0;
  const stopped = pauses.filter(({ from, until }) => until > startsAt && from < at);
  return workedLessPauses(
    calendar,
    startsAt,
    at,
    stopped.map(({ from, until }) => [from, until])
  );
}
