import type { CompiledCalendar } from '../calendar/compiled.ts';
import { fillTemplate, parseTemplate } from '../message/template.ts';
import type { FieldValues } from '../message/fields.ts';
import { offsetDay } from '../ring/offset.ts';
import type { NewTask, TaskPatch } from '../task/patch.ts';
import { checkDay, weekdayOf, type Day } from '../time/day.ts';
import { instantOnWall, type Moment } from '../time/instant.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';
import type { Act, AssigneeChoice, DateExpression } from './acts.ts';
import type { Priority } from '../task/model.ts';

/** The task that an act is done to, and where and when it is done. */
export interface ActOn {
  task: {
    name: string;
    /** The name of the task that people made, at the beginning of those that rules made of it; its own where people made it. */
    origin: string;
    projectId: number | null;
    sectionId: number | null;
    ownerId: number | null;
    due: Moment | null;
    start: Moment | null;
    priority: Priority;
    description: string;
  };
  at: InstantMs;
  /** In which zone “today” and times of day are read. */
  zone: Zone;
  /** On which working days are counted. */
  calendar: CompiledCalendar;
  keeperId: number | null;
  actorId: number | null;
  creatorId: number | null;
  managerId: number | null;
  /** The next one above the owner, else a coordinator, else the keeper. */
  aboveId: number | null;
  /** Members of its project by role. */
  members: readonly { personId: number; role: string }[];
  /** Merge fields for names and comments. */
  values: FieldValues;
}

/** What an act comes to for one task. */
export type Effect =
  | { kind: 'patch'; patch: TaskPatch }
  | { kind: 'comment'; text: string }
  | { kind: 'new task'; of: 'follow-up' | 'copy'; task: NewTask }
  | { kind: 'section'; name: string }
  | { kind: 'open tasks'; statusId: number }
  | { kind: 'ring'; ruleId: number };

/**
 * What an act comes to for a task; null when there is nobody to give it to.
 * @throws CodedError `no-working-time`, or for a merge field that does not exist
 */
export function resolveAct(act: Act, on: ActOn): Effect | null {
  switch (act.act) {
    case 'set status':
      return { kind: 'patch', patch: { statusId: act.statusId } };
    case 'set priority':
      return { kind: 'patch', patch: { priority: act.priority } };
    case 'set percent':
      return { kind: 'patch', patch: { percent: act.percent } };
    case 'set field':
      return { kind: 'patch', patch: { own: { fieldId: act.fieldId, value: act.value } } };
    case 'set due':
      return { kind: 'patch', patch: { due: momentOfExpression(act.date, act.time, on) } };
    case 'set start':
      return { kind: 'patch', patch: { start: momentOfExpression(act.date, act.time, on) } };
    case 'assign': {
      const ownerId = assignee(act.to, on);
      return ownerId === null ? null : { kind: 'patch', patch: { ownerId } };
    }
    case 'unassign':
      return { kind: 'patch', patch: { ownerId: null } };
    case 'add tag':
      return { kind: 'patch', patch: { addTag: act.tag } };
    case 'remove tag':
      return { kind: 'patch', patch: { removeTag: act.tag } };
    case 'move':
      return { kind: 'patch', patch: { projectId: act.projectId, sectionId: act.sectionId } };
    case 'copy': {
      const { projectId, sectionId } = act;
      return { kind: 'new task', of: 'copy', task: { ...newTask(on), projectId, sectionId } };
    }
    case 'comment':
      return { kind: 'comment', text: filled(act.text, on) };
    case 'follow-up':
      return {
        kind: 'new task',
        of: 'follow-up',
        task: {
          ...newTask(on),
          // What follows a follow-up is named after the work that both are about.
          name: filled(act.name, { values: { ...on.values, task: on.task.origin } }).slice(0, 500),
          description: filled(act.description, on),
          ownerId: act.owner === null ? null : assignee(act.owner, on),
          due: momentOfExpression(act.due, act.time, on),
          start: null,
          priority: act.priority ?? on.task.priority
        }
      };
    case 'create section':
      return { kind: 'section', name: filled(act.name, on) };
    case 'archive':
      return { kind: 'patch', patch: { setAside: 'archived' } };
    case 'bin':
      return { kind: 'patch', patch: { setAside: 'binned' } };
    case 'park': {
      const review = momentOfExpression(act.review, null, on);
      return { kind: 'patch', patch: { setAside: 'parked', ...(review ? { reviewDay: review.day } : {}) } };
    }
    case 'update open tasks':
      return { kind: 'open tasks', statusId: act.statusId };
    case 'ring another':
      return { kind: 'ring', ruleId: act.ruleId };
  }
}

function newTask({ task }: ActOn): NewTask {
  const { name, description, projectId, sectionId, ownerId, due, start, priority } = task;
  return { name, description, projectId, sectionId, ownerId, due, start, priority };
}

function filled(text: string, { values }: Pick<ActOn, 'values'>): string {
  return fillTemplate(parseTemplate(text), values);
}

/** Who a choice stands for; null when nobody is there. */
function assignee(choice: AssigneeChoice, on: ActOn): number | null {
  switch (choice.who) {
    case 'owner':
      return on.task.ownerId;
    case 'keeper':
      return on.keeperId;
    case 'actor':
      return on.actorId;
    case 'creator':
      return on.creatorId;
    case 'above':
      return on.aboveId;
    case 'manager':
      return on.managerId;
    case 'role':
      return on.members.find(({ role }) => role === choice.role)?.personId ?? null;
    case 'person':
      return choice.id;
  }
}

/**
 * A date expression read at the instant of the act, in the act's zone: “today + 5 working days at 09:00”, “same weekday next week”.
 * @returns null when the expression takes the date out, or counts from a date that is not there
 * @throws CodedError `no-working-time` or `date-out-of-range`
 * @example “same weekday next week” of a task due on a Tuesday, done on a Thursday, is Tuesday, 5 days on
 */
export function momentOfExpression(
  expression: DateExpression,
  time: string | null,
  {
    task,
    at,
    zone,
    calendar
  }: Pick<ActOn, 'at' | 'zone' | 'calendar'> & { task: Pick<ActOn['task'], 'due' | 'start'> }
): Moment | null {
  if ('none' in expression) return null;
  const today = zone.dayOf(at);
  const day =
    'weekday' in expression ? sameWeekdayNextWeek(task.due?.day ?? today, today) : counted(expression);
  if (day === null) return null;
  const minute = time === null ? null : parseTimeOfDay(time);
  if (minute === null) return { day, minute: null, zone: null };
  // A time is kept with the name of the place's zone at that moment, not with a person's moves between places.
  return { day, minute, zone: zoneNamed(zone.nameAt(instantOnWall(day, minute, zone))) };

  function counted({ from, n, unit }: Extract<DateExpression, { from: string }>): Day | null {
    const base = from === 'today' ? today : ((from === 'due' ? task.due : task.start)?.day ?? null);
    return base === null ? null : checkDay(offsetDay(base, n, unit, calendar.days));
  }
}

/** The weekday of one date in the week, Monday to Sunday, after another's. */
function sameWeekdayNextWeek(weekdayFrom: Day, today: Day): Day {
  return today - weekdayOf(today) + 7 + weekdayOf(weekdayFrom);
}
