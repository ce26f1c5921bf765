import { explainDue } from '../../core/forecast/explain.ts';
import { reminderWords } from '../../core/forecast/reminders.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { MS_PER_DAY, formatDay, parseDay } from '../../core/time/day.ts';
import { longZoned, shortDay, shortMoment } from '../../core/time/format.ts';
import { formatZoned } from '../../core/time/instant.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { TaskChoices } from '../../view/tasks.ts';
import type { TaskDetailView } from '../../view/task-detail.ts';
import type { Container } from '../container.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { deadlineWords } from './deadlines.ts';
import { appliesTo } from './rule-reasons.ts';
import { recordOf } from './task-record.ts';
import { momentText, taskRows } from './task-rows.ts';
import { formOf } from './task-form.ts';
import { mayEdit } from './tasks.ts';
import type { Viewer } from './viewer.ts';

/** How far ahead a task's own bells are listed. */
const AHEAD_DAYS = 400;

/** Everything that can be chosen in the form of a task. */
export function taskChoices(app: Container): TaskChoices {
  return {
    projects: app.stores.projects
      .all()
      .filter(({ state }) => state === 'open')
      .map(({ id, name }) => ({ id, name })),
    sections: app.stores.projects.sections(),
    people: app.stores.people
      .all()
      .filter(({ active }) => active)
      .map(({ id, name, zone }) => ({ id, name, place: placeOfZone(zone) })),
    statuses: app.stores.projects.statuses(),
    fields: app.stores.fields.all(),
    tags: app.stores.taskParts.allTags()
  };
}

/** A task as it opens: its bell line first, then everything that hangs on it. */
export function taskDetail(app: Container, task: Task, viewer: Viewer, sight: Sight): TaskDetailView {
  const { stores, source, clock } = app;
  const { zone } = viewer;
  const now = clock.now();
  const nowDay = zone.dayOf(now);
  const facts = stores.tasks.factsOf(task.id)!;
  const dueAt = source.planner.momentOf('due', facts);
  const nameOf = (id: number | null) =>
    id === null ? 'Early Bell' : (stores.people.byId(id)?.name ?? 'somebody who is gone');
  const context = { stores, source, now };
  const linked = (id: number) => {
    const other = stores.tasks.byId(id);
    return other && stores.tasks.seen([id], sight).has(id) ? other : null;
  };
  const parent = task.parentId === null ? null : linked(task.parentId);
  const notices = stores.notices.ofTask(task.id);
  return {
    id: task.id,
    editable: mayEdit(task, sight, stores) && task.setAside !== 'binned',
    mayRestore: mayEdit(task, sight, stores),
    row: taskRows(context, [task], zone, sight)[0]!,
    values: formOf(task, stores),
    created: shortMoment(task.createdAt, zone, nowDay),
    creator: nameOf(task.createdBy),
    finished: task.finishedAt === null ? null : shortMoment(task.finishedAt, zone, nowDay),
    originalDue: task.slips > 0 && task.originalDue ? momentText(task.originalDue, nowDay) : null,
    slips: stores.taskParts.slips(task.id).map(({ at, byId, fromDue, toDue }) => ({
      at: shortMoment(at, zone, nowDay),
      by: nameOf(byId),
      from: shortDay(parseDay(fromDue.slice(0, 10)), nowDay),
      to: shortDay(parseDay(toDue.slice(0, 10)), nowDay)
    })),
    nowMs: now,
    dueMs: dueAt,
    dueMoment: dueAt === null ? null : longZoned(formatZoned(dueAt, source.planner.dateSource(facts).zone)),
    dueWhy: explainDue(source.planner, facts).map(whyText),
    coming: app.forecasts.ofTask(task.id, now + AHEAD_DAYS * MS_PER_DAY, viewer),
    past: notices
      .filter(({ state }) => state !== 'planned' && state !== 'held' && state !== 'folded')
      .map((notice) => ({
        bell: app.forecasts.recorded(notice, viewer),
        state: notice.state,
        reason: notice.reason
      })),
    rules: appliesTo(app, facts, now, nowDay),
    reminders: stores.taskParts.reminders(task.id).map(({ id, personId, timing }) => ({
      id,
      whose: personId === null ? 'whoever owns it' : nameOf(personId),
      words: reminderWords(timing, nowDay),
      mine: personId === viewer.personId
    })),
    parent: parent && { id: parent.id, name: parent.name },
    subtasks: taskRows(
      context,
      stores.tasks.childrenOf(task.id).filter(({ id, setAside }) => setAside === null && linked(id)),
      zone,
      sight
    ),
    comments: stores.taskParts.comments(task.id).map(({ id, personId, at, text }) => ({
      id,
      by: nameOf(personId),
      at: shortMoment(at, zone, nowDay),
      text,
      mine: personId === viewer.personId
    })),
    times: stores.taskParts.times(task.id).map(({ id, personId, at, minutes, note }) => ({
      id,
      by: nameOf(personId),
      at: shortMoment(at, zone, nowDay),
      minutes,
      note
    })),
    links: stores.taskParts
      .links(task.id)
      .flatMap(({ id, taskId, toTaskId, toProjectId }): TaskDetailView['links'] => {
        if (toProjectId !== null) {
          const project = source.facts.projects.get(toProjectId);
          return project ? [{ id, kind: 'project' as const, to: toProjectId, name: project.name }] : [];
        }
        const other = linked(toTaskId === task.id ? taskId : toTaskId!);
        return other ? [{ id, kind: 'task' as const, to: other.id, name: other.name }] : [];
      }),
    contactIds: stores.contacts.linksOfTask(task.id).map(({ contactId }) => contactId),
    contacts: stores.contacts.all().map(({ id, name }) => ({ id, name })),
    deadlines: deadlineWords(app, task, facts, now),
    nextRound: nextRoundWords(app, task, now, nowDay),
    rounds: stores.taskParts.rounds(task.id).map(({ round, due, finishedAt, skipped }) => ({
      round: round + 1,
      due: due && shortDay(parseDay(due), nowDay),
      finished: finishedAt === null ? null : shortMoment(finishedAt, zone, nowDay),
      skipped: skipped.map((date) => shortDay(parseDay(date), nowDay))
    })),
    record: recordOf(app, task.id, zone, nowDay)
  };
}

/** When a recurring task comes back if it is finished now, or by the calendar. */
function nextRoundWords(app: Container, task: Task, now: number, nowDay: number): string | null {
  if (!task.renewal) return null;
  const next = app.renewals.next(task, task.renewal.from === 'calendar' ? null : now);
  if (!next) return 'It does not come back any more: its rhythm has ended.';
  const due = shortDay(next.due.day, nowDay);
  const moved =
    next.rhythmDay === next.due.day ? '' : `, moved from ${shortDay(next.rhythmDay, nowDay)}, a closed day`;
  const skipped =
    next.skipped.length === 0
      ? ''
      : ` Passed over: ${next.skipped
          .slice(0, 6)
          .map((day) => shortDay(parseDay(formatDay(day)), nowDay))
          .join(', ')}${next.skipped.length > 6 ? ', …' : ''}.`;
  return task.renewal.from === 'calendar'
    ? `It comes back on ${due}${moved}, whether or not it is finished.${skipped}`
    : `Finished now, it would come back due ${due}${moved}.${skipped}`;
}
