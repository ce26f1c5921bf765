import type { Day } from '../time/day.ts';
import { instantOnWall, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/**
 * Days left at `at` for a reader: the due date as written (a date-time: as read in the reader's zone) less the
 * reader's local date. `overdue` from the due moment on. These are days on the calendar, not full 24-hour days.
 */
export function daysLeft(
  due: Moment,
  dueAt: InstantMs,
  at: InstantMs,
  readerZone: Zone
): { overdue: false; days: number } | { overdue: true } {
  if (at >= dueAt) return { overdue: true };
  return { overdue: false, days: dueDayForReader(due, readerZone) - readerZone.dayOf(at) };
}

/** The due date as a reader in `zone` sees it. */
export function dueDayForReader(due: Moment, zone: Zone): Day {
  return due.minute === null || due.zone === null
    ? due.day
    : zone.dayOf(instantOnWall(due.day, due.minute, due.zone));
}

/** Days left in words: “due today”, “due tomorrow”, “due in 3 days”, “overdue”. */
export function daysLeftWords(left: { overdue: false; days: number } | { overdue: true }): string {
  if (left.overdue) return 'overdue';
  // East of the due's zone the reader's date can be past while the due moment is still ahead: their today is the last day.
  if (left.days <= 0) return 'due today';
  return left.days === 1 ? 'due tomorrow' : `due in ${left.days} days`;
}
