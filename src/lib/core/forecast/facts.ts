import type { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE, type Leave } from '../calendar/leave.ts';
import type { Interval } from '../calendar/spec.ts';
import type { EndOfDay } from '../ring/moments.ts';
import type { AnchorKind, LeadTiming } from '../ring/lead.ts';
import { isOpen, type Lead, type Phase, type Priority, type RuleDefinition } from '../rule/model.ts';
import { compileWatch, type CompiledWatch } from '../rule/watch.ts';
import type { Moment } from '../time/instant.ts';
import { parseTimeOfDay, type MinuteOfDay } from '../time/time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';

/** What the forecast computes from: a workspace at one moment, compiled. */
export interface Facts {
  workspace: WorkspaceFacts;
  people: ReadonlyMap<number, PersonFacts>;
  projects: ReadonlyMap<number, ProjectFacts>;
}

export interface WorkspaceFacts {
  zone: Zone;
  calendar: CompiledCalendar;
  noticeMinute: MinuteOfDay;
  endOfDay: EndOfDay;
}

export interface PersonFacts {
  id: number;
  name: string;
  /** Null when the person has no mail address. */
  email: string | null;
  /** Somebody deactivated is told nothing and stands in for nobody. */
  active: boolean;
  zone: Zone;
  /** Base calendar, in the person's zone. */
  calendar: CompiledCalendar;
  managerId: number | null;
  leave: Leave;
  /** Who stands in during which leave. */
  standIns: readonly StandIn[];
  /** Intervals of their day in which they want no notice, in their zone. */
  quiet: readonly Interval[];
  /** Most messages on one of their dates; null without a limit. */
  dailyCap: number | null;
  /** Times of their day at which what is put off leaves; null at the next opening. */
  digestMinutes: { due: MinuteOfDay | null; overdue: MinuteOfDay | null };
}

/** Who is asked from one instant to another, `[from, until)`, while somebody is on leave. */
export interface StandIn {
  from: InstantMs;
  until: InstantMs;
  personId: number;
}

/** What a person has who is active, takes no leave and has set nothing. */
export const ORDINARY: Pick<
  PersonFacts,
  'active' | 'leave' | 'standIns' | 'quiet' | 'dailyCap' | 'digestMinutes'
> = {
  active: true,
  leave: NO_LEAVE,
  standIns: [],
  quiet: [],
  dailyCap: null,
  digestMinutes: { due: null, overdue: null }
};

/** Whether mail can reach somebody at all. */
export function isReachable({ active, email }: PersonFacts): boolean {
  return active && email !== null;
}

export interface ProjectFacts {
  id: number;
  name: string;
  zone: Zone | null;
  calendar: CompiledCalendar | null;
  /** Whether its dates belong to its place. */
  pinned: boolean;
}

export interface TaskFacts {
  id: number;
  name: string;
  projectId: number | null;
  ownerId: number | null;
  due: Moment | null;
  start: Moment | null;
  phase: Phase;
  priority: Priority;
  round: number;
  /** Seen by its owner alone, and by a rule that its owner keeps. */
  private: boolean;
  /** Owners besides the first, who leads. */
  otherOwnerIds: readonly number[];
  /** The date on which people want to be reminded of it. */
  remindOn: Moment | null;
  /** Parked, archived, binned, or of a project that is called off or closed: no rule sees it. */
  aside: boolean;
  /** A thing with dates but no work: it is never overdue. */
  register: boolean;
  /** What people set on this task alone. */
  reminders: readonly TaskReminder[];
}

/** A reminder set on a task. */
export interface TaskReminder {
  /** Who set it for themselves; null for whoever owns the task. */
  personId: number | null;
  lead: CompiledLead;
}

/** What a task has about which nothing was said. */
export const ORDINARY_TASK: Pick<
  TaskFacts,
  'otherOwnerIds' | 'remindOn' | 'aside' | 'register' | 'reminders'
> = { otherOwnerIds: [], remindOn: null, aside: false, register: false, reminders: [] };

/** Work that is in the list and not finished. */
export function isOpenWork({ phase, aside }: Pick<TaskFacts, 'phase' | 'aside'>): boolean {
  return isOpen(phase) && !aside;
}

/** Whether a task can be overdue at all: open work, and no entry of a register. */
export function canBeOverdue(task: Pick<TaskFacts, 'phase' | 'aside' | 'register'>): boolean {
  return isOpenWork(task) && !task.register;
}

/** A rule compiled once for many tasks. */
export interface RuleFacts {
  id: number;
  name: string;
  position: number;
  watch: CompiledWatch;
  leads: readonly CompiledLead[];
  tell: RuleDefinition['tell'];
  /** The built-in rule of reminders: each task gives its own leads. */
  ofTask: boolean;
}

export interface CompiledLead {
  lead: Lead;
  order: number;
  timing: LeadTiming;
  /** The named zone, where the lead names one. */
  namedZone: Zone | null;
  /** A moment of its own, counted from instead of a date of the task. */
  moment: Moment | null;
  /** Which moment its anchor stands for. */
  kind: AnchorKind;
  /** What its anchor is called in `why`. */
  anchorName: string;
  /** Whether it announces something that can be over: a reminder date is only when people want to hear. */
  announces: boolean;
}

/** The leads by which a rule rings for a task and a person. */
export function leadsFor(rule: RuleFacts, task: TaskFacts, personId: number): readonly CompiledLead[] {
  if (!rule.ofTask) return rule.leads;
  const owns = task.ownerId === personId || task.otherOwnerIds.includes(personId);
  return task.reminders
    .filter((reminder) => (reminder.personId === null ? owns : reminder.personId === personId))
    .map(({ lead }) => lead);
}

/** A lead of a rule by its id, for a task. */
export function leadOf(
  rule: RuleFacts | undefined,
  task: TaskFacts | null | undefined,
  leadId: string
): CompiledLead | undefined {
  const leads = rule?.ofTask ? (task?.reminders.map(({ lead }) => lead) ?? []) : (rule?.leads ?? []);
  return leads.find(({ lead: { id } }) => id === leadId);
}

/**
 * Compiles a rule; leads that are switched off are left out.
 * @param keeperId who answers for it; their own private tasks are seen by it
 * @param ofTask whether it is the built-in rule of reminders
 * @throws CodedError for a time or zone that does not exist
 */
export function compileRule(
  id: number,
  name: string,
  position: number,
  definition: RuleDefinition,
  keeperId: number | null = null,
  ofTask = false
): RuleFacts {
  const leads = definition.leads.map((lead, order) => compileLead(lead, order));
  return {
    id,
    name,
    position,
    watch: compileWatch(definition.watch, keeperId, ofTask),
    leads: leads.filter(({ lead }) => lead.on),
    tell: definition.tell,
    ofTask
  };
}

/** @throws CodedError for a time or zone that does not exist */
export function compileLead(lead: Lead, order: number, moment: Moment | null = null): CompiledLead {
  return {
    lead,
    order,
    timing: {
      n: lead.n,
      unit: lead.unit,
      closedDay: lead.closedDay,
      minute: lead.time === null ? null : parseTimeOfDay(lead.time)
    },
    namedZone: lead.zone.of === 'named' ? zoneNamed(lead.zone.zone) : null,
    moment,
    kind: lead.anchor === 'due' && !moment ? 'due' : 'start',
    anchorName: moment ? 'reminder' : lead.anchor,
    announces: moment === null && lead.anchor !== 'remind on'
  };
}
