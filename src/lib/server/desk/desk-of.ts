import { CodedError } from '../../core/errors.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import { placementAt, reasonOn, type DeskTask, type Placement } from '../../core/desk/placement.ts';
import { startBeside, type Plan } from '../../core/desk/plan.ts';
import { Wall } from '../../core/desk/wall.ts';
import { isOpen } from '../../core/task/model.ts';
import { parseDay, type Day } from '../../core/time/day.ts';
import { dayOfMoment, instantOnWall } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed, type InstantMs } from '../../core/time/zone.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { DeskRow } from '../store/placements.ts';
import type { Stores } from '../store/all.ts';
import type { Rhythm } from '../../view/desk.ts';
import { rhythmOf } from './rhythm-of.ts';

/** A task on somebody's Desk. */
export interface DeskEntry extends Placement {
  row: DeskRow;
  task: DeskTask;
  /** The day of theirs on which they do it: of its dates, or planned; null where it has none, or several. */
  day: Day | null;
  /** How often it comes back; null where it does not. */
  rhythm: Rhythm | null;
  private: boolean;
  /** The instant of a due time; null for a date. */
  dueAt: InstantMs | null;
}

/** Everything on somebody's Desk at an instant. */
export interface Desk {
  person: PersonFacts;
  wall: Wall;
  now: InstantMs;
  /** The person's date. */
  today: Day;
  entries: DeskEntry[];
}

/** What reading a Desk asks. */
export interface DeskServices {
  stores: Stores;
  source: FactsSource;
  clock: { now(): InstantMs };
}

/** Whether it stands on a day after today, or in a span of them. */
export function isAhead(place: DeskEntry['place']): boolean {
  return place === 'rest' || place === 'after' || place === 'further';
}

/** Whether its due date is past, where the person is. */
export function isLate({ task, place }: DeskEntry, { today }: Pick<Desk, 'today'>): boolean {
  return place === 'today' && task.due !== null && task.due < today;
}

/** @throws CodedError `person-gone` */
export function deskOf(app: DeskServices, personId: number, now = app.clock.now()): Desk {
  return deskFrom(app, personId, app.stores.placements.desk(personId), now);
}

/** The same of some tasks; those that are not on it are left out. @throws CodedError `person-gone` */
export function deskAmong(app: DeskServices, personId: number, ids: readonly number[]): Desk {
  return deskFrom(app, personId, app.stores.placements.deskAmong(personId, ids), app.clock.now());
}

function deskFrom(app: DeskServices, personId: number, rows: DeskRow[], now: InstantMs): Desk {
  const person = app.source.facts.people.get(personId);
  if (!person) throw new CodedError('person-gone');
  const wall = new Wall(person.zone, person.calendar.calendar);
  const today = wall.todayAt(now);
  const entries = rows.map((row): DeskEntry => {
    const task = deskTask(row, wall);
    const placement = placementAt(task, now, wall);
    return {
      ...{ row, task, ...placement, day: dayOf(task, today), dueAt: dueInstant(row) },
      ...{ rhythm: rhythmOf(row), private: row.private === 1 }
    };
  });
  return { person, wall, now, today, entries };
}

/** A task as its placement is computed from: dates with a time are read where the person is. */
function deskTask(row: DeskRow, wall: Wall): DeskTask {
  const plan = planOf(row);
  const plannedOn = row.plannedAt === null ? null : wall.zone.dayOf(row.plannedAt);
  const start = dayThere(row.startDate, row.startTime, row.startZone, wall);
  return {
    state: row.setAside === 'parked' ? 'parked' : isOpen(row.phase) ? 'open' : 'finished',
    reviewOn: row.reviewDate === null ? null : parseDay(row.reviewDate),
    start: startBeside(plan, plannedOn, start),
    due: dayThere(row.dueDate, row.dueTime, row.dueZone, wall),
    placed: row.placedAt !== null,
    plan
  };
}

function dayThere(date: string | null, time: string | null, zone: string | null, wall: Wall): Day | null {
  if (date === null) return null;
  if (time === null || zone === null) return parseDay(date);
  const moment = { day: parseDay(date), minute: parseTimeOfDay(time), zone: zoneNamed(zone) };
  return dayOfMoment(moment, wall.zone, wall.zone);
}

function dueInstant({ dueDate, dueTime, dueZone }: DeskRow): InstantMs | null {
  if (dueDate === null || dueTime === null || dueZone === null) return null;
  return instantOnWall(parseDay(dueDate), parseTimeOfDay(dueTime), zoneNamed(dueZone));
}

function planOf({ plan, planFirst, planLast }: DeskRow): Plan | null {
  if (plan === 'today') return { kind: 'today' };
  if (plan === null || planFirst === null) return null;
  return { kind: 'days', first: parseDay(planFirst), last: planLast === null ? null : parseDay(planLast) };
}

function dayOf(task: DeskTask, today: Day): Day | null {
  const reason = reasonOn(task, today);
  if (reason.code === 'date' || reason.code === 'date-reached') return reason.on;
  const isOneDay = reason.code === 'planned' && reason.first === reason.last;
  return isOneDay ? reason.first : null;
}
