import { spanBefore, type WeekSpan } from '../ring/week-spans.ts';
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
  | { code: 'parked'; on: Day | null }
  | { code: 'review'; on: Day }
  | { code: 'date' | 'date-reached'; of: 'start' | 'due'; on: Day }
  | { code: 'planned' | 'planned-last' | 'plan-over'; first: Day; last: Day | null };

export interface Placement {
  place: DeskPlace;
  reason: PlaceReason;
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
  const place = placeOn(task, today, wall);
  return { place, reason: reasonOn(task, today), changesAt: changeAfter(task, today, place, wall) };
}

/** Where a task stands on a day of the person. */
export function placeOn(task: DeskTask, today: Day, wall: Wall): DeskPlace {
  if (task.state === 'closed') return 'none';
  if (task.state === 'finished') return 'finished';
  if (task.state === 'parked')
    return task.reviewOn !== null && task.reviewOn <= today ? 'to-place' : 'parked';
  return task.placed ? placeByDay(dateOf(task), task.plan, today, wall) : 'to-place';
}

function placeByDay(date: Day | null, plan: Plan | null, today: Day, wall: Wall): DeskPlace {
  if (date !== null && date <= today) return 'today';
  if (plan) return placeByPlan(plan, today, wall);
  return date === null ? 'undated' : spanBefore(wall.nextWeekAfter(today), date, today);
}

function placeByPlan(plan: Plan, today: Day, wall: Wall): DeskPlace {
  if (plan.kind === 'today') return 'today';
  const { first, last } = plan;
  if (last !== null && today >= last) return today === last ? 'today' : 'to-place';
  return spanBefore(wall.nextWeekAfter(today), Math.max(today + 1, first), today);
}

/** Why it stands there, in the order of `placeOn`. */
export function reasonOn(task: DeskTask, today: Day): PlaceReason {
  const { state, reviewOn, plan } = task;
  if (state === 'closed' || state === 'finished') return { code: state };
  if (state === 'parked')
    return reviewOn !== null && reviewOn <= today
      ? { code: 'review', on: reviewOn }
      : { code: 'parked', on: reviewOn };
  if (!task.placed) return { code: 'new' };
  const on = dateOf(task);
  const of = on === task.due ? 'due' : 'start';
  if (on !== null && on <= today) return { code: 'date-reached', of, on };
  if (plan?.kind === 'today') return { code: 'planned-today' };
  if (plan) {
    const { first, last } = plan;
    const isOver = last !== null && today > last;
    return { code: isOver ? 'plan-over' : today === last ? 'planned-last' : 'planned', first, last };
  }
  return on === null ? { code: 'undated' } : { code: 'date', of, on };
}

/** The earlier of start and due, whichever there is. */
function dateOf({ start, due }: DeskTask): Day | null {
  if (start === null || due === null) return start ?? due;
  return Math.min(start, due);
}

/** When a task comes to another place than it has today. */
function changeAfter(task: DeskTask, today: Day, place: DeskPlace, wall: Wall): InstantMs | null {
  const { state, reviewOn, plan } = task;
  if (place === 'parked' && reviewOn !== null) return wall.beginningOf(reviewOn);
  if (state !== 'open' || !task.placed) return null;
  const date = dateOf(task);
  if (date !== null && date <= today) return null;
  let first = Infinity;
  // The first day after today, of those on which the place can change at all, on which it does.
  eachDayOfChange(date, plan, today, wall, (day) => {
    if (day <= today || day >= first) return;
    if (placeByDay(date, plan, wall.reachedWith(day), wall) !== place) first = day;
  });
  return first === Infinity ? null : wall.beginningOf(first);
}

type Look = (day: Day) => void;

/** The days on which the place of a task can change; more of them may be named, also days that are past. */
function eachDayOfChange(date: Day | null, plan: Plan | null, today: Day, wall: Wall, look: Look): void {
  if (date !== null) look(date);
  if (plan?.kind === 'today') return;
  if (!plan) {
    if (date !== null) eachTurnBefore(date, today, wall, look);
    return;
  }
  const { first, last } = plan;
  if (last !== null) {
    look(last);
    look(last + 1);
  }
  if (today < first) eachTurnBefore(first, today, wall, look);
  eachTurnFrom(Math.max(today, first), last ?? Infinity, wall, look);
}

/** The days on which a day ahead comes into another span: when its week, or the one before it, begins, and when another base week does. */
function eachTurnBefore(day: Day, today: Day, wall: Wall, look: Look): void {
  wall.eachWeekFrom(today, day, (from) => {
    const sinceWeekBegan = (day - wall.nextWeekAfter(from)) % 7;
    const begins = day - ((sinceWeekBegan + 7) % 7);
    look(from);
    look(begins - 7);
    look(begins);
  });
}

/** The days on which tomorrow comes into another week. */
function eachTurnFrom(day: Day, last: Day, wall: Wall, look: Look): void {
  wall.eachWeekFrom(day, last, (from) => {
    const next = wall.nextWeekAfter(from);
    look(from);
    look(next - 1);
    look(next);
  });
}
