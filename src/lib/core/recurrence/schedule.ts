import type { CompiledCalendar } from '../calendar/compiled.ts';
import { CodedError } from '../errors.ts';
import { closedDay } from '../ring/closed-day.ts';
import type { ClosedDayRule } from '../ring/lead.ts';
import { MS_PER_DAY, MS_PER_MINUTE } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { occurrences } from './occurrences.ts';
import type { SeriesStart } from './periods.ts';
import type { RecurrenceRule } from './rrule.ts';

/** A schedule that is skipped on so many dates in a row rings no more: nothing is walked to the end of time. */
const MOST_SKIPPED_DAYS = 400;

/** A rule's schedule rings at most this often. */
export const SHORTEST_MINUTES = 5;

/** When a rule looks for tasks by itself: a recurrence rule over local time, with what happens on a closed day. */
export interface Schedule {
  rule: RecurrenceRule;
  /** Kept when the time of day is edited, so that every second week stays the same weeks. */
  start: SeriesStart;
  zone: Zone;
  /** `skip` unless the rule says otherwise. */
  closedDay: ClosedDayRule;
}

/**
 * The rings of a schedule from its start on: its occurrences, each on a closed day moved or left out, the wall time kept; those that
 * meet are one.
 * @param calendar on which days are closed
 * @throws CodedError `schedule-too-often` when two rings are less than five minutes apart
 */
export function* scheduleRings(schedule: Schedule, calendar: CompiledCalendar): Generator<InstantMs> {
  const { rule, start, zone } = schedule;
  let last = -Infinity;
  let [skipped, skippedDay] = [0, NaN];
  for (const occurrence of occurrences(rule, start, zone)) {
    const local = zone.localOf(occurrence);
    const day = Math.floor(local / MS_PER_DAY);
    const moved = closedDay(day, schedule.closedDay, 0, calendar.days);
    if (Number.isNaN(moved)) {
      if (day !== skippedDay && ++skipped > MOST_SKIPPED_DAYS) return;
      skippedDay = day;
      continue;
    }
    skipped = 0;
    const instant = moved === day ? occurrence : zone.instantOf(local + (moved - day) * MS_PER_DAY);
    // One that moved earlier may land on or before a ring that has been given: it has met it.
    if (instant <= last) continue;
    if (instant - last < SHORTEST_MINUTES * MS_PER_MINUTE)
      throw new CodedError('schedule-too-often', { least: SHORTEST_MINUTES });
    last = instant;
    yield instant;
  }
}
