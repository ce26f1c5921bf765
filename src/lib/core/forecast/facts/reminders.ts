import type { Dated } from '../../anchor/descriptor.ts';
import { NO_DETAILS } from '../../task/details.ts';
import { ANCHORS, type TaskDate } from '../../anchor/anchors.ts';
import { compileLead, type CompiledLead } from './compile-lead.ts';
import type { Facts, TaskFacts, TaskReminder } from './facts.ts';
import { ownersOf } from './recipients.ts';
import { defaultClosedDay, isDayLevel, type Unit } from '../../ring/lead.ts';
import { offsetWords } from '../../ring/why-text.ts';
import { parseDay } from '../../time/day.ts';
import { shortDay } from '../../time/format.ts';
import { parseTimeOfDay } from '../../time/time-of-day.ts';
import { placeOfZone } from '../../time/zone-names.ts';
import { zoneNamed } from '../../time/zone.ts';
import type { OffsetLead } from '../../rule/lead-model.ts';

/** When a reminder on a task rings: counted from one of its dates, or at a moment of its own on the wall of a zone. */
export type ReminderTiming = FromADate | { date: string; time: string; zone: string };
interface FromADate {
  anchor: TaskDate;
  n: number;
  unit: Unit;
}

/** What is offered, commonest first: at the due moment, minutes, hours, days and working days before it. */
export const REMINDER_OFFSETS = [
  [0, 'minute'],
  [5, 'minute'],
  [10, 'minute'],
  [15, 'minute'],
  [30, 'minute'],
  [1, 'hour'],
  [2, 'hour'],
  [1, 'day'],
  [2, 'day'],
  [5, 'day'],
  [1, 'workday'],
  [2, 'workday'],
  [5, 'workday']
] as const satisfies readonly (readonly [number, Unit])[];

/** The id by which rings of a reminder are known. */
export function reminderLeadId(reminderId: number): string {
  return `reminder ${reminderId}`;
}

/** Which row set a ring of the built-in rule: of a reminder on its task, or of what somebody wants for everything of theirs. */
export function setBy(leadId: string): { table: 'reminder' | 'standing_lead'; id: number } {
  const [kind, id] = leadId.split(' ');
  return { table: kind === STANDING ? 'standing_lead' : 'reminder', id: Number(id) };
}

/** Before the ids of what is wanted for everything of theirs. */
const STANDING = 'standing';
/** After what is set on a task itself. */
const AFTER_OWN = 1_000;

/**
 * What somebody wants to be reminded of for everything of theirs, as a reminder on any task that they own: counted from its due date, on
 * the same terms as one that is set on the task.
 * @param order among theirs
 */
export function standingReminder(
  id: number,
  personId: number,
  { n, unit }: { n: number; unit: Unit },
  order: number
): TaskReminder & { personId: number } {
  return reminderAs(`${STANDING} ${id}`, personId, { anchor: 'due', n, unit }, AFTER_OWN + order);
}

/** What reminds of a task: what is set on it, and what its owners want for everything of theirs. */
export function remindersFor(task: TaskFacts, standing: Facts['standing']): readonly TaskReminder[] {
  if (standing.size === 0) return task.reminders;
  const own = ownersOf(task).flatMap((id) => standing.get(id) ?? []);
  return own.length === 0 ? task.reminders : [...task.reminders, ...own];
}

/**
 * A reminder as the leads of the built-in rule: days and working days ring at the time of the date itself, else at the workspace's
 * notice time in the reader's zone; minutes and hours count from the moment. At a moment that is a day alone it rings on that day.
 * @throws CodedError for a date, time or zone that does not exist
 */
export function taskReminder(
  reminderId: number,
  personId: number | null,
  timing: ReminderTiming,
  order: number
): TaskReminder {
  if ('date' in timing) {
    const moment = {
      day: parseDay(timing.date),
      minute: parseTimeOfDay(timing.time),
      zone: zoneNamed(timing.zone)
    };
    const id = reminderLeadId(reminderId);
    const lead = leadOf(id, { anchor: 'remind on', n: 0, unit: 'minute' });
    return { personId, lead: compileLead(lead, order, moment), onTheDay: null };
  }
  return reminderAs(reminderLeadId(reminderId), personId, timing, order);
}

function reminderAs<P extends number | null>(
  id: string,
  personId: P,
  timing: FromADate,
  order: number
): TaskReminder & { personId: P } {
  const { anchor, n } = timing;
  const onTheDay = isAtTheMoment(timing)
    ? compileLead({ ...leadOf(id, { anchor, n, unit: 'day' }), closedDay: 'as-is' }, order)
    : null;
  return { personId, lead: compileLead(leadOf(id, timing), order), onTheDay };
}

/** The lead of a reminder for a task as it stands. */
export function leadOfReminder(task: Dated, { lead, onTheDay }: TaskReminder): CompiledLead {
  if (!onTheDay) return lead;
  const date = ANCHORS[lead.anchor as TaskDate].read(task, () => NO_DETAILS);
  return date?.minute === null ? onTheDay : lead;
}

function isAtTheMoment({ n, unit }: { n: number; unit: Unit }): boolean {
  return n === 0 && !isDayLevel(unit);
}

function leadOf(id: string, { anchor, n, unit }: FromADate): OffsetLead {
  return {
    kind: 'offset',
    id,
    ...{ anchor, n, unit },
    closedDay: isDayLevel(unit) ? defaultClosedDay(n, unit) : 'as-is',
    time: null,
    zone: { of: 'recipient' },
    repeat: null,
    only: null,
    on: true
  };
}

/**
 * A reminder in words: “15 minutes before the due moment”, “on Fri 6 Mar at 15:00, Lisbon”.
 * @param isDay whether the date that it is counted from has no time
 */
export function reminderWords(timing: ReminderTiming, nowDay: number, isDay: boolean): string {
  if ('date' in timing)
    return `on ${shortDay(parseDay(timing.date), nowDay)} at ${timing.time}, ${placeOfZone(timing.zone)}`;
  const { anchor, n, unit } = timing;
  const ofDay = isDayLevel(unit) || (isDay && isAtTheMoment(timing));
  const name = ofDay ? ANCHORS[anchor].day : ANCHORS[anchor].moment;
  if (n === 0) return ofDay ? `on the ${name}` : `at the ${name}`;
  return `${offsetWords(n, unit)} the ${name}`;
}
