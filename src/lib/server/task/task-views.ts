import { explainDue } from '../../core/forecast/explain/explain.ts';
import { reminderWords } from '../../core/forecast/facts/reminders.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { formatDay, parseDay } from '../../core/time/day.ts';
import { longZoned, shortDay, shortMoment } from '../../core/time/format.ts';
import { formatZoned } from '../../core/time/instant.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { TaskChoices } from '../../view/tasks.ts';
import type { TaskDetailView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { Escalations } from '../ladder/escalations.ts';
import type { HandRings } from '../rule/hand-rings.ts';
import type { Promises } from './promises.ts';
import type { Renewals } from './renewals.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { deadlineWords } from './deadlines.ts';
import { appliesTo } from '../rule/rule-reasons.ts';
import { backAt, backTo } from './back-from-parking.ts';
import { bellsInShort, bellsOfTask } from './task-bells.ts';
import { quietOf } from './task-quiet.ts';
import { saidOf } from './task-said.ts';
import { recordOf } from './task-record.ts';
import { momentText, taskRows } from './task-rows.ts';
import { formOf } from './task-form.ts';
import { mayEdit } from './tasks.ts';
import { offeredProjects } from '../project/project-rights.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & {
  escalations: Escalations;
  forecasts: ForecastService;
  handRings: HandRings;
  promises: Promises;
  renewals: Renewals;
};

/** Everything that can be chosen in the form of a task. */
export function taskChoices(app: Services, sight: Sight): TaskChoices {
  const projects = offeredProjects(app.stores, sight);
  const offered = new Set(projects.map(({ id }) => id));
  return {
    projects,
    sections: app.stores.projects.sections().filter(({ projectId }) => offered.has(projectId)),
    people: app.stores.people
      .all()
      .filter(({ active }) => active)
      .map(({ id, name, zone }) => ({ id, name, place: placeOfZone(zone) })),
    statuses: app.stores.projects.statuses(),
    fields: app.stores.fields.all(),
    tags: app.stores.taskParts.allTags(sight)
  };
}

/** What the parts of a task's view are made with. */
interface Opened {
  app: Services;
  task: Task;
  facts: TaskFacts;
  viewer: Viewer;
  sight: Sight;
  now: number;
  nowDay: number;
}

/** A task as it opens: its bell line first, then everything that hangs on it. */
export function taskDetail(app: Services, task: Task, viewer: Viewer, sight: Sight): TaskDetailView {
  const { stores, clock } = app;
  const { zone } = viewer;
  const now = clock.now();
  const nowDay = zone.dayOf(now);
  const opened: Opened = { app, task, facts: stores.tasks.factsOf(task.id)!, viewer, sight, now, nowDay };
  const mayChange = mayEdit(task, sight, { stores });
  const whole = bellsOfTask(app, task.id, viewer);
  const bells = bellsInShort(whole, now);
  return {
    id: task.id,
    editable: mayChange && task.setAside !== 'binned',
    mayRestore: mayChange,
    row: taskRows({ ...app, now }, [task], zone, sight)[0]!,
    values: formOf(task, stores),
    created: shortMoment(task.createdAt, zone, nowDay),
    creator: nameOf(app, task.createdBy),
    finished: task.finishedAt === null ? null : shortMoment(task.finishedAt, zone, nowDay),
    parked: parkedBy(app, task, viewer),
    ...datesOf(opened),
    ...bells,
    rules: appliesTo(app, opened.facts, now, nowDay),
    reminders: remindersOf(opened),
    ...familyOf(opened),
    ...talkOf(opened),
    ...tiesOf(opened),
    record: recordOf(app, task.id, viewer, sight, nowDay),
    said: saidOf(app, opened.facts, viewer, sight, mayChange, whole.coming),
    quiet: quietOf(
      app,
      opened.facts,
      viewer.personId ?? 0,
      zone,
      mayChange && task.setAside !== 'binned',
      sight.all
    )
  };
}

function nameOf({ stores }: Services, id: number | null): string {
  return id === null ? 'Early Bell' : (stores.people.byId(id)?.name ?? 'a removed person');
}

function parkedBy(app: Services, task: Task, viewer: Viewer): string | null {
  const words = parkedWords(app, task, viewer);
  return words && `${task.parkedBy === null ? '' : `Parked by ${nameOf(app, task.parkedBy)}. `}${words}`;
}

/** To whom and when a task comes back by itself; null for what is not parked. */
export function parkedWords(app: Services, task: Task, { zone }: Viewer): string | null {
  const at = backAt(app.source.facts, task);
  if (at === null) return null;
  const to = backTo(app.source.facts, task);
  const when = shortMoment(at, zone, zone.dayOf(app.clock.now()));
  return `It returns to the list on ${when}${to ? `, to ${to.name}` : ''}.`;
}

/** Its dates: when it was first due, each move of that, when it is over and why, and its rounds. */
function datesOf({ app, task, facts, viewer: { zone }, now, nowDay }: Opened) {
  const { planner } = app.source;
  const dueAt = planner.dates.momentOf('due', facts);
  return {
    originalDue: task.slips > 0 && task.originalDue ? momentText(task.originalDue, nowDay) : null,
    slips: app.stores.taskParts.slips(task.id).map(({ at, byId, fromDue, toDue }) => ({
      at: shortMoment(at, zone, nowDay),
      by: nameOf(app, byId),
      from: shortDay(parseDay(fromDue.slice(0, 10)), nowDay),
      to: shortDay(parseDay(toDue.slice(0, 10)), nowDay)
    })),
    nowMs: now,
    dueMs: dueAt,
    dueMoment: dueAt === null ? null : longZoned(formatZoned(dueAt, planner.dates.dateSource(facts).zone)),
    dueWhy: explainDue(planner, facts).map(whyText),
    deadlines: deadlineWords(app, task, facts, now),
    nextRound: nextRoundWords(app, task, now, nowDay),
    rounds: app.stores.taskParts.rounds(task.id).map(({ round, due, finishedAt, skipped }) => ({
      round: round + 1,
      due: due && shortDay(parseDay(due), nowDay),
      finished: finishedAt === null ? null : shortMoment(finishedAt, zone, nowDay),
      skipped: skipped.map((date) => shortDay(parseDay(date), nowDay))
    }))
  };
}

/** The reminders that people set on it. */
function remindersOf({ app, task, facts, viewer, nowDay }: Opened): TaskDetailView['reminders'] {
  return app.stores.taskParts.reminders(task.id).map(({ id, personId, timing }) => ({
    id,
    whose: personId === null ? 'the owner' : nameOf(app, personId),
    words: reminderWords(timing, nowDay, !('date' in timing) && isDay(facts, timing.anchor)),
    mine: personId === viewer.personId
  }));
}

/** Whether a date of a task has no time. */
function isDay({ due, start, remindOn }: TaskFacts, anchor: 'due' | 'start' | 'remind on'): boolean {
  const date = anchor === 'due' ? due : anchor === 'start' ? start : remindOn;
  return date?.minute === null;
}

/** Another task, where the viewer sees it. */
function seen({ app: { stores }, sight }: Opened, id: number): Task | null {
  const other = stores.tasks.byId(id);
  return other && stores.tasks.seen([id], sight).has(id) ? other : null;
}

/** What it stands under, and what stands under it. */
function familyOf(opened: Opened) {
  const { app, task, viewer, sight, now } = opened;
  const parent = task.parentId === null ? null : seen(opened, task.parentId);
  const children = app.stores.tasks
    .childrenOf(task.id)
    .filter(({ id, setAside }) => setAside === null && seen(opened, id));
  return {
    parent: parent && { id: parent.id, name: parent.name },
    subtasks: taskRows({ ...app, now }, children, viewer.zone, sight)
  };
}

/** What was said about it, and the time that was spent on it. */
function talkOf({ app, task, viewer: { zone, personId: viewerId }, nowDay }: Opened) {
  return {
    comments: app.stores.taskParts.comments(task.id).map(({ id, personId, at, text }) => ({
      id,
      by: nameOf(app, personId),
      at: shortMoment(at, zone, nowDay),
      text,
      mine: personId === viewerId
    })),
    times: app.stores.taskParts.times(task.id).map(({ id, personId, at, minutes, note }) => ({
      id,
      by: nameOf(app, personId),
      at: shortMoment(at, zone, nowDay),
      minutes,
      note
    }))
  };
}

/** What it is connected with: tasks, projects, people outside. */
function tiesOf(opened: Opened) {
  const { stores, source } = opened.app;
  const { task } = opened;
  const links = stores.taskParts
    .links(task.id)
    .flatMap(({ id, taskId, toTaskId, toProjectId }): TaskDetailView['links'] => {
      if (toProjectId !== null) {
        const project = source.facts.projects.get(toProjectId);
        return project ? [{ id, kind: 'project', to: toProjectId, name: project.name }] : [];
      }
      const other = seen(opened, toTaskId === task.id ? taskId : toTaskId!);
      return other ? [{ id, kind: 'task', to: other.id, name: other.name }] : [];
    });
  const contactIds = stores.contacts.linksOfTask(task.id).map(({ contactId }) => contactId);
  return {
    links,
    contactIds,
    // Whoever does not look after people sees those that have to do with the task, and no others.
    contacts: stores.contacts
      .all()
      .filter(({ id }) => opened.sight.all || contactIds.includes(id))
      .map(({ id, name }) => ({ id, name }))
  };
}

/** When a recurring task comes back if it is finished now, or by the calendar. */
function nextRoundWords(app: Services, task: Task, now: number, nowDay: number): string | null {
  if (!task.renewal) return null;
  const next = app.renewals.next(task, task.renewal.from === 'calendar' ? null : now);
  if (!next) return 'The series has ended.';
  const due = shortDay(next.due.day, nowDay);
  const moved =
    next.rhythmDay === next.due.day ? '' : `, moved from ${shortDay(next.rhythmDay, nowDay)}, a closed day`;
  const skipped =
    next.skipped.length === 0
      ? ''
      : ` Skipped: ${next.skipped
          .slice(0, 6)
          .map((day) => shortDay(parseDay(formatDay(day)), nowDay))
          .join(', ')}${next.skipped.length > 6 ? ', …' : ''}.`;
  return task.renewal.from === 'calendar'
    ? `Next due ${due}${moved}, even if not finished.${skipped}`
    : `If finished now, next due ${due}${moved}.${skipped}`;
}
