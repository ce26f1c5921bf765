import type { WeekSpan } from '../ring/week-spans.ts';
import type { Day } from '../time/day.ts';
import type { InstantMs } from '../time/zone.ts';
import type { Plan } from './plan.ts';
import type { Wall } from './wall.ts';

/** Where a task stands on somebody's Desk; `none` where it stands nowhere. */
export type DeskPlace = 'to-place' | WeekSpan | 'undated' | 'parked' | 'finished' | 'none';

/** What of a task decides where it stands on the Desk of one person. Dates are read where that person is. */
export interface DeskTask {
  /** Closed: also what is archived, in the bin, or of a project that is not open. */
  state: 'open' | 'parked' | 'finished' | 'closed';
  /** The day on which a parked task is looked at again. */
  reviewOn: Day | null;
  start: Day | null;
  due: Day | null;
  /** Whether this person has placed it since it was given to them. */
  placed: boolean;
  plan: Plan | null;
}

/** Why a task stands where it stands. */
export type PlaceReason =
  | { code: 'closed' | 'finished' | 'new' | 'undated' | 'planned-today' }
  | { code: 'parked' | 'review'; on: Day | null }
  | { code: 'date' | 'date-reached'; of: 'start' | 'due'; on: Day }
  | { code: 'planned' | 'planned-last' | 'plan-over'; first: Day; last: Day | null };

export interface Placed {
  place: DeskPlace;
  reason: PlaceReason;
}

export interface Placement extends Placed {
  /** The next instant at which the place is another one, while nobody does anything; null when it never is. */
  changesAt: InstantMs | null;
}

/**
 * Where a task stands on the Desk of one person at an instant, why, and when that changes next. It is asked again and again and never kept: no job
 * has to run at midnight.
 * @param at UTC; days begin where the person is
 */
export function placementAt(task: DeskTask, at: InstantMs, wall: Wall): Placement {
  const today = wall.todayAt(at);
  const now = placeOn(task, today, wall);
  return { ...now, changesAt: changeAfter(task, today, now.place, wall) };
}

/** Where a task stands on a day of the person. */
export function placeOn(task: DeskTask, today: Day, wall: Wall): Placed {
  const { state, reviewOn } = task;
  if (state === 'closed' || state === 'finished')
    return { place: state === 'closed' ? 'none' : 'finished', reason: { code: state } };
  if (state === 'parked')
    return reviewOn !== null && reviewOn <= today
      ? { place: 'to-place', reason: { code: 'review', on: reviewOn } }
      : { place: 'parked', reason: { code: 'parked', on: reviewOn } };
  if (!task.placed) return { place: 'to-place', reason: { code: 'new' } };
  const date = dateOf(task);
  if (date && date.on <= today) return { place: 'today', reason: { code: 'date-reached', ...date } };
  if (task.plan) return byPlan(task.plan, today, wall);
  if (!date) return { place: 'undated', reason: { code: 'undated' } };
  return { place: spanOf(date.on, today, wall), reason: { code: 'date', ...date } };
}

/** The earlier of start and due, whichever there is. */
function dateOf({ start, due }: DeskTask): { of: 'start' | 'due'; on: Day } | null {
  if (start !== null && (due === null || start < due)) return { of: 'start', on: start };
  return due === null ? null : { of: 'due', on: due };
}

function byPlan(plan: Plan, today: Day, wall: Wall): Placed {
  if (plan.kind === 'today') return { place: 'today', reason: { code: 'planned-today' } };
  const { first, last } = plan;
  if (last !== null && today > last) return { place: 'to-place', reason: { code: 'plan-over', first, last } };
  if (today === last) return { place: 'today', reason: { code: 'planned-last', first, last } };
  const place = spanOf(Math.max(today + 1, first), today, wall);
  return { place, reason: { code: 'planned', first, last } };
}

/** `weekSpanOf` of section *Weeks* in the law of timing, for a day after today. */
function spanOf(day: Day, today: Day, wall: Wall): WeekSpan {
  const next = wall.nextWeekAfter(today);
  if (day < next) return 'rest';
  return day < next + 7 ? 'after' : 'further';
}

/** The first day after today, of those on which the place can change at all, on which it does. */
function changeAfter(task: DeskTask, today: Day, place: DeskPlace, wall: Wall): InstantMs | null {
  const days = daysOfChange(task, today, wall).filter((day) => day > today);
  days.sort((a, b) => a - b);
  for (const day of days) {
    const at = wall.beginningOf(day);
    // A day that the zone skipped begins with the one after it.
    if (placeOn(task, wall.todayAt(at), wall).place !== place) return at;
  }
  return null;
}

function daysOfChange(task: DeskTask, today: Day, wall: Wall): Day[] {
  if (task.state === 'parked') return task.reviewOn === null ? [] : [task.reviewOn];
  if (task.state !== 'open' || !task.placed) return [];
  const date = dateOf(task)?.on ?? null;
  if (date !== null && date <= today) return [];
  const reached = date === null ? [] : [date];
  if (!task.plan) return date === null ? [] : [...reached, ...turnsBefore(date, today, wall)];
  if (task.plan.kind === 'today') return reached;
  const { first, last } = task.plan;
  const end = last === null ? [] : [last, last + 1];
  const turns = today < first ? turnsBefore(first, today, wall) : [];
  return [...reached, ...end, ...turns, ...turnsFrom(Math.max(today, first), last, wall)];
}

/** The days up to a day ahead on which it comes into another span: when its week, or the one before it, begins, and when another base week does. */
function turnsBefore(day: Day, today: Day, wall: Wall): Day[] {
  return [today, ...wall.changesBetween(today, day)].flatMap((from) => {
    const sinceWeekBegan = (day - wall.nextWeekAfter(from)) % 7;
    const begins = day - ((sinceWeekBegan + 7) % 7);
    return [from, begins - 7, begins];
  });
}

/** The days on which tomorrow comes into another week. */
function turnsFrom(day: Day, last: Day | null, wall: Wall): Day[] {
  return [day, ...wall.changesBetween(day, last ?? Infinity)].flatMap((from) => {
    const next = wall.nextWeekAfter(from);
    return [from, next - 1, next];
  });
}
