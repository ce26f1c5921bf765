import type { CompiledCalendar } from '../calendar/compiled.ts';
import { MS_PER_MINUTE } from '../time/day.ts';
import type { Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** Bands of working days overdue. */
export const BANDS = ['under 1', '1–2', '3–5', '6–10', 'over 10'] as const;
export type Band = (typeof BANDS)[number];

export interface OverdueAge {
  /** Days passed on the calendar: today in the due's zone less the due date. */
  days: number;
  /** Working days in (due date, today]. */
  workdays: number;
  /** Whole working minutes from the due moment on, less pauses. */
  workMinutes: number;
  band: Band;
}

/** A stretch in which the clock of an escalation stands still, `[from, to)`. */
export type Pause = readonly [from: InstantMs, to: InstantMs];

/**
 * How long an open task has been overdue at an instant; null while it is not.
 * @param dueAt the due moment
 * @param zone the due's zone, in which today is asked
 * @param calendar the calendar on which working days and minutes are counted
 * @param pauses in any order; those that overlap count once
 */
export function overdueAge(
  due: Moment,
  dueAt: InstantMs,
  zone: Zone,
  calendar: CompiledCalendar,
  at: InstantMs,
  pauses: readonly Pause[] = []
): OverdueAge | null {
  if (at < dueAt) return null;
  const today = (due.zone ?? zone).dayOf(at);
  const workdays = Math.max(0, calendar.days.count(due.day + 1, today + 1));
  return {
    days: today - due.day,
    workdays,
    workMinutes: Math.floor(workedLessPauses(calendar, dueAt, at, pauses) / MS_PER_MINUTE),
    band: bandOf(workdays)
  };
}

/** Working time between two instants, ms, less pauses; those that overlap count once. */
export function workedLessPauses(
  { spans }: CompiledCalendar,
  from: InstantMs,
  to: InstantMs,
  pauses: readonly Pause[]
): number {
  let worked = spans.worked(from, to);
  let counted = from;
  for (const [start, end] of [...pauses].sort((a, b) => a[0] - b[0])) {
    const begins = Math.max(start, counted);
    const ends = Math.min(end, to);
    worked -= spans.worked(begins, ends);
    counted = Math.max(counted, ends);
  }
  return worked;
}

/** The working days that a band reaches from and to, both included. */
export const BAND_DAYS: Readonly<Record<Band, readonly [from: number, to: number]>> = {
  'under 1': [0, 0],
  '1–2': [1, 2],
  '3–5': [3, 5],
  '6–10': [6, 10],
  'over 10': [11, Infinity]
};

export function bandOf(workdays: number): Band {
  return BANDS.find((band) => workdays <= BAND_DAYS[band][1])!;
}
