import { PRIORITIES, isOpen } from '../../core/rule/model.ts';
import { daysLeft, daysLeftWords } from '../../core/ring/days-left.ts';
import { parseDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { TaskChoices, TaskFormView, TaskRowView } from '../../view/tasks.ts';
import type { Container } from '../container.ts';
import type { StoredMoment, Task } from '../store/tasks.ts';

/** Rows of the list for a viewer in `viewer`. */
export function taskRows(app: Container, tasks: readonly Task[], viewer: Zone): TaskRowView[] {
  const { planner, facts } = app.source;
  const now = app.clock.now();
  return tasks.map((task) => {
    const taskFacts = app.stores.tasks.factsOf(task.id)!;
    const dueAt = planner.momentOf('due', taskFacts);
    const open = isOpen(task.phase);
    const overdue = open && dueAt !== null && now >= dueAt;
    const owner = task.ownerId === null ? null : (facts.people.get(task.ownerId) ?? null);
    const { zone } = planner.dateSource(taskFacts);
    return {
      id: task.id,
      name: task.name,
      project: task.projectId === null ? null : (facts.projects.get(task.projectId)?.name ?? null),
      owner: owner?.name ?? null,
      ownerPlace: owner ? placeOfZone(owner.zone.nameAt(now)) : null,
      status: task.status,
      phase: task.phase,
      priority: task.priority,
      notches: PRIORITIES.indexOf(task.priority),
      due: task.due && momentText(task.due, viewer.dayOf(now)),
      overdue,
      left:
        !open || !task.due
          ? null
          : overdue
            ? lateWords(app, task)
            : daysLeftWords(daysLeft(taskFacts.due!, dueAt!, now, zone)),
      slips: task.slips,
      private: task.private
    };
  });
}

/** A date as written: `Thu 5 Mar`, with its time and place where it has them. */
export function momentText({ date, time, zone }: StoredMoment, nowDay: number): string {
  const day = shortDay(parseDay(date), nowDay);
  return time === null ? day : `${day}, ${time} ${placeOfZone(zone!)}`;
}

function lateWords(app: Container, task: Task): string {
  const days = app.source.planner.workingDaysOverdue(app.stores.tasks.factsOf(task.id)!, app.clock.now());
  return days === 0
    ? 'overdue, no working day yet'
    : `${days} working ${days === 1 ? 'day' : 'days'} overdue`;
}

/** What the form of a task is filled with. */
export function taskForm(task: Task): TaskFormView {
  const { name, description, projectId, ownerId, statusId, priority, due, start } = task;
  return {
    name,
    description,
    projectId,
    ownerId,
    statusId,
    priority,
    dueDate: due?.date ?? null,
    dueTime: due?.time ?? null,
    startDate: start?.date ?? null,
    startTime: start?.time ?? null,
    private: task.private
  };
}

export function taskChoices(app: Container): TaskChoices {
  return {
    projects: app.stores.projects.all().map(({ id, name }) => ({ id, name })),
    people: app.stores.people
      .all()
      .filter(({ active }) => active)
      .map(({ id, name, zone }) => ({ id, name, place: placeOfZone(zone) })),
    statuses: app.stores.projects.statuses().map(({ id, name }) => ({ id, name }))
  };
}
