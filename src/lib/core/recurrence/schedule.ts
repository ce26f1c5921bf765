import type { CompiledCalendar } from '../calendar/compiled.ts';
import { CodedError } from '../errors.ts';
import { closedDay } from '../ring/closed-day.ts';
import type { ClosedDayRule } from '../ring/lead.ts';
import { MS_PER_DAY, MS_PER_MINUTE, formatDay, pad2 } from '../time/day.ts';
import type { InstantMs, LocalMs, Zone } from '../time/zone.ts';
import { occurrencesOnWall } from './occurrences.ts';
import type { SeriesStart } from './periods.ts';
import type { RecurrenceRule } from './rrule.ts';

/** A schedule that is skipped on so many dates in a row rings no more: nothing is walked to the end of time. */
const MOST_SKIPPED_DAYS = 400;

/** A rule's schedule rings at most this often. */
export const SHORTEST_MINUTES = 5;

/** What tells the second time of a wall reading that comes twice from the first; no occurrence stands between them. */
const SECOND_TIME_MS = 1;

/** When a rule looks for tasks by itself: a recurrence rule over local time, with what happens on a closed day. */
export interface Schedule {
  rule: RecurrenceRule;
  /** Kept when the time of day is edited, so that every second week stays the same weeks. */
  start: SeriesStart;
  zone: Zone;
  /** `skip` unless the rule says otherwise. */
  closedDay: ClosedDayRule;
}

/** One ring of a schedule, with the occurrences that it is of: more than one where closed days made them meet. */
export interface ScheduleRing {
  at: InstantMs;
  /** The wall reading of its first occurrence, before the closed-day rule; a reading that comes twice is the second time 1 ms later. */
  first: LocalMs;
  /** Of its last one: by this it is known on every clock. */
  last: LocalMs;
}

/** An occurrence by its local date and time: `2026-03-09T10:00:00`; the second time of a wall reading that comes twice says so. */
export function occurrenceName(local: LocalMs): string {
  const day = Math.floor(local / MS_PER_DAY);
  const ms = local - day * MS_PER_DAY;
  const seconds = Math.floor(ms / 1000);
  const time = [seconds / 3600, (seconds / 60) % 60, seconds % 60].map((n) => pad2(Math.floor(n))).join(':');
  return `${formatDay(day)}T${time}${ms % 1000 === SECOND_TIME_MS ? ' again' : ''}`;
}

/** The instants of the rings of a schedule, as `ringsOfSchedule` gives them. */
export function* scheduleRings(schedule: Schedule, calendar: CompiledCalendar): Generator<InstantMs> {
  for (const { at } of ringsOfSchedule(schedule, calendar)) yield at;
}

/**
 * The rings of a schedule from its start on: its occurrences, each on a closed day moved or left out, the wall time kept; those that
 * meet are one.
 * @param calendar on which days are closed
 * @throws CodedError `schedule-too-often` when two rings are less than five minutes apart
 */
export function* ringsOfSchedule(schedule: Schedule, calendar: CompiledCalendar): Generator<ScheduleRing> {
  let pending: ScheduleRing | null = null;
  for (const next of movedOccurrences(schedule, calendar)) {
    // One that moved earlier may land on or before a ring that is known: it has met it.
    if (pending && next.at <= pending.at) {
      pending.last = next.last;
      continue;
    }
    if (pending) {
      if (next.at - pending.at < SHORTEST_MINUTES * MS_PER_MINUTE)
        throw new CodedError('schedule-too-often', { least: SHORTEST_MINUTES });
      yield pending;
    }
    pending = next;
  }
  if (pending) yield pending;
}

/** The occurrences of a schedule where they are moved to; what is left out is not among them. */
function* movedOccurrences(
  { rule, start, zone, closedDay: closed }: Schedule,
  { days }: CompiledCalendar
): Generator<ScheduleRing> {
  let [skipped, skippedDay] = [0, NaN];
  for (const { at: occurrence, local } of occurrencesOnWall(rule, start, zone)) {
    const day = Math.floor(local / MS_PER_DAY);
    const moved = closedDay(day, closed, 0, days);
    if (Number.isNaN(moved)) {
      if (day !== skippedDay && ++skipped > MOST_SKIPPED_DAYS) return;
      skippedDay = day;
      continue;
    }
    skipped = 0;
    const at = moved === day ? occurrence : zone.instantOf(local + (moved - day) * MS_PER_DAY);
    const known = zone.instantOf(local) < occurrence ? local + SECOND_TIME_MS : local;
    yield { at, first: known, last: known };
  }
}
