import { CodedError } from '../errors.ts';
import { formatDay, weekdayOf, type Day } from '../time/day.ts';
import type { Wall } from './wall.ts';

/** Spans for which a person can plan a task; today is a plan of its own. */
export type LaterSpan = 'rest' | 'after' | 'further';

/** Some day from the first to the last; `last` is null for a span without an end. */
export interface DaysPlan {
  kind: 'days';
  first: Day;
  last: Day | null;
}

/** For when a person has placed a task, for themselves alone: it never touches the due date. */
export type Plan =
  /** Today, and each day after it until something is done with the task. */
  { kind: 'today' } | DaysPlan;

/**
 * The days of a span as they stand on the day on which somebody plans for it: to its last working weekday, or to its last date where it has none.
 * @throws CodedError `desk-span-over` where nothing of the span is left
 */
export function planForSpan(span: LaterSpan, today: Day, wall: Wall): DaysPlan {
  const next = wall.nextWeekAfter(today);
  if (span === 'further') return { kind: 'days', first: next + 7, last: null };
  const [first, end] = span === 'rest' ? [today + 1, next] : [next, next + 7];
  if (first >= end) throw new CodedError('desk-span-over', {});
  const week = wall.weekOn(today);
  let last = end - 1;
  while (last >= first && week[weekdayOf(last)]!.length === 0) last--;
  return { kind: 'days', first, last: last < first ? end - 1 : last };
}

/** @throws CodedError `desk-day-past` for a date before today */
export function planForDay(day: Day, today: Day): DaysPlan {
  if (day < today) throw new CodedError('desk-day-past', { day: formatDay(day) });
  return { kind: 'days', first: day, last: day };
}

/** The first day on which it is done by a plan. */
export function firstDayOf(plan: Plan, today: Day): Day {
  return plan.kind === 'today' ? today : plan.first;
}

/**
 * The start that decides where a task stands: what somebody planned when the work had begun is their later word, and holds against it.
 * @param plannedOn their date when they planned it
 */
export function startBeside(plan: Plan | null, plannedOn: Day | null, start: Day | null): Day | null {
  const hasBegun = start !== null && plannedOn !== null && plannedOn >= start;
  return plan !== null && hasBegun ? null : start;
}
