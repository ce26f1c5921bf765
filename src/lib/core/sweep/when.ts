import type { CompiledCalendar } from '../calendar/compiled.ts';
import { digestSchedule, nextScheduled } from '../digest/when.ts';
import { scheduleRings } from '../recurrence/schedule.ts';
import { MS_PER_DAY } from '../time/day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';
import type { SweepDefinition } from './model.ts';

/** A planned run of a sweep: when its list is sent, and when it runs. */
export interface PlannedSweep {
  looksAt: InstantMs;
  at: InstantMs;
}

/**
 * The next run of a sweep whose list can still be sent one working day ahead.
 * @param from ms; the list is sent then or later
 * @param last the run before it, ms; null where there is none
 * @param workspace its zone and calendar, by which a schedule without a place of its own goes
 * @param keeper on whose working days and clock a day ahead is counted
 * @returns null for one by hand, or a schedule that has come to its end
 * @throws CodedError for a schedule that cannot be read, or that rings too often
 */
export function nextSweep(
  from: InstantMs,
  last: InstantMs | null,
  { when }: Pick<SweepDefinition, 'when'>,
  workspace: { zone: Zone; calendar: CompiledCalendar },
  keeper: CompiledCalendar
): PlannedSweep | null {
  if (when.by === 'hand') return null;
  const schedule = digestSchedule(when, workspace.zone);
  for (const at of scheduleRings(schedule, workspace.calendar)) {
    if (at <= Math.max(from, last ?? from)) continue;
    const looksAt = aWorkingDayBefore(at, keeper);
    if (looksAt >= from) return { looksAt, at };
  }
  return null;
}

/** One working day of a calendar before an instant, at the same time of day on the wall of whose calendar it is. */
export function aWorkingDayBefore(at: InstantMs, calendar: CompiledCalendar): InstantMs {
  const { zone } = calendar;
  const local = zone.localOf(at);
  const day = Math.floor(local / MS_PER_DAY);
  return zone.instantOf(local + (calendar.days.offset(day, -1) - day) * MS_PER_DAY);
}

/** On whose wall the days of a sweep are counted. */
export function zoneOfSweep({ when }: Pick<SweepDefinition, 'when'>, workspace: Zone): Zone {
  return when.by === 'schedule' && when.zone !== null ? zoneNamed(when.zone) : workspace;
}

/** Reads a schedule far enough to see that it can be kept. @throws CodedError as `nextSweep` */
export function checkSweepSchedule(
  { when }: Pick<SweepDefinition, 'when'>,
  workspace: { zone: Zone; calendar: CompiledCalendar },
  now: InstantMs
): void {
  if (when.by === 'hand') return;
  const schedule = digestSchedule(when, workspace.zone);
  const first = nextScheduled(now, schedule, workspace.calendar);
  if (first !== null) nextScheduled(first, schedule, workspace.calendar);
}
