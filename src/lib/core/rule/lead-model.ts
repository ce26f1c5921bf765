import type { LeadAnchor } from '../anchor/anchors.ts';
import { defaultClosedDay, isDayLevel, type ClosedDayRule, type Unit } from '../ring/lead.ts';
import type { RuleEventName } from './events.ts';
import type { Priority } from '../task/model.ts';

/** On whose wall a lead's time of day is read. */
export type ZoneChoice =
  { of: 'recipient' | 'owner' | 'project' | 'workspace' } | { of: 'named'; zone: string };

/** What one ring time of any kind has. */
interface LeadBase {
  /** Stays through edits of time, zone, closed-day rule and words. */
  id: string;
  on: boolean;
  /** For whom it holds; null for every task that the rule watches. */
  only: LeadFilter | null;
  zone: ZoneChoice;
}

/** For which tasks a lead holds: those that pass each list that is not empty. */
export interface LeadFilter {
  priorities: Priority[];
  tags: string[];
  /** Groups that the owner is in. */
  groups: number[];
}

/** An offset from an anchor. */
export interface OffsetLead extends LeadBase {
  kind: 'offset';
  anchor: LeadAnchor;
  /** The field of the workspace's own that is the anchor; of a range the end that counts. */
  field?: { id: number; end: 'from' | 'until' };
  /** The lead of the same rule whose last notice is the anchor. */
  after?: string;
  /** Negative is before. */
  n: number;
  unit: Unit;
  closedDay: ClosedDayRule;
  /** `HH:MM`; null keeps the anchor's own time, or takes the workspace's notice time on a date. */
  time: string | null;
  /** Rings again every n units, until `most` notices have left; null once. */
  repeat: { n: number; unit: Unit; most: number } | null;
  /** Of a rung of a ladder: other timings for some tasks; the first that holds counts. */
  instead?: RungTiming[];
}

/** When a rung rings for some tasks: it stays the same rung. */
export interface RungTiming {
  only: LeadFilter;
  n: number;
  unit: Unit;
}

/** A recurrence rule over local time. */
export interface ScheduleLead extends LeadBase {
  kind: 'schedule';
  /** RFC 5545, without DTSTART. */
  rrule: string;
  /** The first day from which it counts: every second week stays the same weeks. */
  start: string;
  time: string;
  closedDay: ClosedDayRule;
  /** A task rings once for each value of a date of it, however often it is found. */
  oncePerDate: boolean;
  /** Which date that is; absent: the due date. */
  onceFor?: OnceFor;
  /**
   * Of those that ring once for a date: only tasks whose date is this day or after it, and has come: what falls between two looks is told
   * at the next. Absent: whatever its date.
   */
  since?: string;
}

/** Dates of a task for each value of which a schedule may ring once. */
export const ONCE_DATES = ['due', 'start', 'remind on', 'review date', 'own date'] as const;
export interface OnceFor {
  date: (typeof ONCE_DATES)[number];
  /** The field of the workspace's own; of a range the end that counts. */
  field?: { id: number; end: 'from' | 'until' };
}

/** Something that happens to a task. */
export interface EventLead extends LeadBase {
  kind: 'event';
  event: RuleEventName;
  /** Of a phase or status changed: ids or phases; absent means any. */
  from?: (string | number)[];
  to?: (string | number)[];
  /** Of a field changed: which. */
  field?: string | number;
  /** Import, bulk over 25 and sweep count too. */
  wide: boolean;
}

/** Where the button of a rule by hand stands: on each task that it looks at, on projects, over what is chosen in the list. */
export const HAND_PLACES = ['task', 'project', 'list'] as const;
export type HandPlace = (typeof HAND_PLACES)[number];

export interface HandLead extends LeadBase {
  kind: 'by hand';
  /** What stands on the button. */
  caption: string;
  /** What is said before many tasks are rung; absent or empty: nothing of its own. */
  confirm?: string;
  /** Absent: on tasks. */
  places?: HandPlace[];
}

export type Lead = OffsetLead | ScheduleLead | EventLead | HandLead;

/** An offset from the due date with what goes by default: the closed-day rule by its direction, the recipient's clock. */
export function offsetLead(id: string, n: number, unit: Unit, patch: Partial<OffsetLead> = {}): OffsetLead {
  return {
    kind: 'offset',
    id,
    anchor: 'due',
    n,
    unit,
    closedDay: defaultClosedDay(n, unit),
    time: isDayLevel(unit) ? '09:00' : null,
    zone: { of: 'recipient' },
    repeat: null,
    only: null,
    on: true,
    ...patch
  };
}

/** Whether a ring time is a rung of a ladder. */
export function isRung(lead: Lead): lead is OffsetLead & { anchor: 'ladder' } {
  return lead.kind === 'offset' && lead.anchor === 'ladder';
}
