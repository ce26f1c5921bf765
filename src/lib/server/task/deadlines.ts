import { dueMoment } from '../../core/ring/moments.ts';
import { overdueWords } from '../../core/ring/late-words.ts';
import { daysLeft, daysLeftWords } from '../../core/ring/days-left.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { FieldValue } from '../../core/task/model.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Moment } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import type { TaskDetailView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Stores } from '../store/all.ts';
import type { Task } from '../store/tasks.ts';

/**
 * Fields that are deadlines: each is met by a status, and until then has days left or is overdue, in the zone and on the calendar of
 * the task's own dates.
 */
export function deadlineWords(
  app: Workspace,
  task: Task,
  facts: TaskFacts,
  now: number
): TaskDetailView['deadlines'] {
  const { zone, calendar } = app.source.planner.dates.dateSource(facts);
  const { endOfDay } = app.source.facts.workspace;
  return deadlinesOf(app.stores, task).map(({ name, moment, met }) => {
    const at = dueMoment(moment, zone, endOfDay, calendar);
    const overdue = !met && now >= at;
    const days = calendar.days.count(moment.day + 1, zone.dayOf(now) + 1);
    const words = met
      ? 'met'
      : overdue
        ? overdueWords(at, days, now, zone)
        : daysLeftWords(daysLeft(moment, at, now, zone));
    return { field: name, words, overdue, met };
  });
}

/** The deadlines of a task among the workspace's own fields, each with the date that it ends with. */
export function deadlinesOf(stores: Stores, task: Task): { name: string; moment: Moment; met: boolean }[] {
  const statuses = stores.projects.statuses();
  const place = (id: number) => statuses.findIndex((status) => status.id === id);
  const values = stores.fields.valuesOf(task.id);
  return stores.fields.all().flatMap((field) => {
    if (field.metByStatusId === null) return [];
    const value = values.find(({ fieldId }) => fieldId === field.id)?.value;
    const moment = value === undefined ? null : endOf(value);
    // A status further on has met it too.
    return moment
      ? [{ name: field.name, moment, met: place(task.statusId) >= place(field.metByStatusId) }]
      : [];
  });
}

/** The date that a field's value ends with. */
function endOf(value: FieldValue): Moment | null {
  const text =
    typeof value === 'string' ? value : typeof value === 'object' && 'until' in value ? value.until : null;
  if (text === null) return null;
  const [date = '', time] = text.split('T');
  return { day: parseDay(date), minute: time ? parseTimeOfDay(time) : null, zone: null };
}
