import { compileLead, type CompiledLead } from './compile-lead.ts';
import { defaultClosedDay, isDayLevel, type Unit } from '../ring/lead.ts';
import { offsetWords } from '../ring/why-text.ts';
import { parseDay } from '../time/day.ts';
import { shortDay } from '../time/format.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { placeOfZone } from '../time/zone-names.ts';
import { zoneNamed } from '../time/zone.ts';
import type { OffsetLead } from '../rule/model.ts';

/** Dates of a task that a reminder can be counted from. */
export const REMINDER_ANCHORS = ['due', 'start', 'remind on'] as const;
type ReminderAnchor = (typeof REMINDER_ANCHORS)[number];

/** When a reminder on a task rings: counted from one of its dates, or at a moment of its own on the wall of a zone. */
export type ReminderTiming =
  { anchor: ReminderAnchor; n: number; unit: Unit } | { date: string; time: string; zone: string };

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

/**
 * A reminder as a lead of the built-in rule: days and working days ring at the time of the date itself, else at the workspace's
 * notice time in the reader's zone; minutes and hours count from the moment.
 * @throws CodedError for a date, time or zone that does not exist
 */
export function reminderLead(reminderId: number, timing: ReminderTiming, order: number): CompiledLead {
  const own = 'date' in timing;
  const [n, unit] = own ? ([0, 'minute'] as const) : ([timing.n, timing.unit] as const);
  const lead: OffsetLead = {
    kind: 'offset',
    id: reminderLeadId(reminderId),
    anchor: own ? 'remind on' : timing.anchor,
    n,
    unit,
    closedDay: isDayLevel(unit) ? defaultClosedDay(n, unit) : 'as-is',
    time: null,
    zone: { of: 'recipient' },
    repeat: null,
    only: null,
    on: true
  };
  const moment = own
    ? { day: parseDay(timing.date), minute: parseTimeOfDay(timing.time), zone: zoneNamed(timing.zone) }
    : null;
  return compileLead(lead, order, moment);
}

/** A reminder in words: “15 minutes before the due moment”, “on Fri 6 Mar at 15:00, Lisbon”. */
export function reminderWords(timing: ReminderTiming, nowDay: number): string {
  if ('date' in timing)
    return `on ${shortDay(parseDay(timing.date), nowDay)} at ${timing.time}, ${placeOfZone(timing.zone)}`;
  const { anchor, n, unit } = timing;
  const name =
    anchor === 'remind on' ? 'reminder date' : isDayLevel(unit) ? `${anchor} date` : `${anchor} moment`;
  if (n === 0) return isDayLevel(unit) ? `on the ${name}` : `at the ${name}`;
  return `${offsetWords(n, unit)} the ${name}`;
}
