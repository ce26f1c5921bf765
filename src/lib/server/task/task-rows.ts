import { overdueWords } from '../../core/ring/late-words.ts';
import { pinnedWords } from '../../core/ring/pinned-words.ts';
import { isOpen } from '../../core/task/model.ts';
import { canBeOverdue, type Facts, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import { daysLeft, daysLeftWords } from '../../core/ring/days-left.ts';
import { parseDay, type Day } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { TaskRowView } from '../../view/tasks.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { StoredMoment } from '../store/task-row.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { mayEdit } from './tasks.ts';
import { backAt } from './back-from-parking.ts';
import { BIN_DAYS } from './task-acts.ts';

/** What rows are made from. */
export interface RowContext {
  stores: Stores;
  source: FactsSource;
  /** Workspace clock, ms. */
  now: number;
}

/** Rows of the list for a viewer in a zone. */
export function taskRows(
  { stores, source, now }: RowContext,
  tasks: readonly Task[],
  viewer: Zone,
  sight: Sight
): TaskRowView[] {
  const { planner, facts } = source;
  const ids = tasks.map(({ id }) => id);
  const hanging = stores.taskParts.hangingOn(ids);
  const nextBells = stores.plan.nextOf(ids);
  const sections = new Map(stores.projects.sections().map(({ id, name }) => [id, name]));
  const nowDay = viewer.dayOf(now);
  return tasks.map((task): TaskRowView => {
    const taskFacts = stores.tasks.factsOf(task.id)!;
    const owner = task.ownerId === null ? null : (facts.people.get(task.ownerId) ?? null);
    const bellAt = nextBells.get(task.id);
    return {
      id: task.id,
      name: task.name,
      projectId: task.projectId,
      project: task.projectId === null ? null : (facts.projects.get(task.projectId)?.name ?? null),
      section: task.sectionId === null ? null : (sections.get(task.sectionId) ?? null),
      ownerId: task.ownerId,
      owner: owner?.name ?? null,
      ownerPlace: owner ? placeOfZone(owner.zone.nameAt(now)) : null,
      otherOwners: taskFacts.otherOwnerIds.length,
      statusId: task.statusId,
      status: task.status,
      phase: task.phase,
      priority: task.priority,
      due: task.due && momentText(task.due, nowDay),
      dueDate: task.due?.date ?? null,
      dueTime: task.due?.time ?? null,
      ...lateness(planner, task, taskFacts, now, viewer),
      dueHere: dueHere(planner, taskFacts, viewer, nowDay),
      start: task.start && momentText(task.start, nowDay),
      slips: task.slips,
      percent: task.percent,
      tags: hanging.tags.get(task.id) ?? [],
      subtasks: hanging.subtasks.get(task.id) ?? { all: 0, done: 0 },
      bell: bellAt === undefined ? null : shortMoment(bellAt, viewer, nowDay),
      recurring: task.renewal !== null,
      created: shortMoment(task.createdAt, viewer, nowDay),
      touched: shortMoment(task.touchedAt, viewer, nowDay),
      private: task.private,
      setAside: task.setAside,
      asideUntil: asideUntil(task, planner.facts, viewer, nowDay),
      editable: mayEdit(task, sight, { stores }),
      group: null
    };
  });
}

/** Whether a task is overdue, and how long it has left or is late, in words. */
export function lateness(
  planner: Planner,
  task: Task,
  facts: TaskFacts,
  now: number,
  viewer: Zone
): Pick<TaskRowView, 'overdue' | 'left'> {
  const dueAt = planner.dates.momentOf('due', facts);
  if (!isOpen(task.phase) || dueAt === null || facts.aside) return { overdue: false, left: null };
  if (canBeOverdue(facts) && now >= dueAt) {
    const days = planner.dates.workingDaysOverdue(facts, now);
    return { overdue: true, left: overdueWords(dueAt, days, now, viewer) };
  }
  // An entry of a register has a date and no work: it is past, never overdue.
  if (now >= dueAt) return { overdue: false, left: 'its date is past' };
  const { zone } = planner.dates.dateSource(facts);
  return { overdue: false, left: daysLeftWords(daysLeft(facts.due!, dueAt, now, zone)) };
}

/** The viewer’s own deadline of a date that is pinned to a place: “in Muscat: by 20:00 your time”; null where there is nothing to say. */
function dueHere(planner: Planner, facts: TaskFacts, viewer: Zone, nowDay: Day): string | null {
  const dueAt = planner.dates.momentOf('due', facts);
  return dueAt === null
    ? null
    : pinnedWords(facts.due!, dueAt, planner.dates.pinnedTo(facts), viewer, (day) => shortDay(day, nowDay));
}

function asideUntil(task: Task, facts: Facts, viewer: Zone, nowDay: number): string | null {
  const { setAside, setAsideAt } = task;
  const back = backAt(facts, task);
  if (back !== null) return shortDay(viewer.dayOf(back), nowDay);
  if (setAside === 'binned') return shortDay(viewer.dayOf(setAsideAt!) + BIN_DAYS, nowDay);
  return null;
}

/** A date as written: `Thu 5 Mar`, with its time and place where it has them. */
export function momentText({ date, time, zone }: StoredMoment, nowDay: number): string {
  const day = shortDay(parseDay(date), nowDay);
  return time === null ? day : `${day}, ${time} ${placeOfZone(zone!)}`;
}
