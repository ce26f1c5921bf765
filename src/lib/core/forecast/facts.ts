import type { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE, type Leave } from '../calendar/leave.ts';
import type { Interval } from '../calendar/spec.ts';
import type { EndOfDay } from '../ring/moments.ts';
import type { LeadTiming } from '../ring/lead.ts';
import type { Lead, Phase, Priority, RuleDefinition } from '../rule/model.ts';
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
}

/** A rule compiled once for many tasks. */
export interface RuleFacts {
  id: number;
  name: string;
  position: number;
  watch: CompiledWatch;
  leads: readonly CompiledLead[];
  tell: RuleDefinition['tell'];
}

export interface CompiledLead {
  lead: Lead;
  order: number;
  timing: LeadTiming;
  /** The named zone, where the lead names one. */
  namedZone: Zone | null;
}

/**
 * Compiles a rule; leads that are switched off are left out.
 * @param keeperId who answers for it; their own private tasks are seen by it
 * @throws CodedError for a time or zone that does not exist
 */
export function compileRule(
  id: number,
  name: string,
  position: number,
  definition: RuleDefinition,
  keeperId: number | null = null
): RuleFacts {
  const leads = definition.leads.map((lead, order) => ({
    lead,
    order,
    timing: {
      n: lead.n,
      unit: lead.unit,
      closedDay: lead.closedDay,
      minute: lead.time === null ? null : parseTimeOfDay(lead.time)
    },
    namedZone: lead.zone.of === 'named' ? zoneNamed(lead.zone.zone) : null
  }));
  return {
    id,
    name,
    position,
    watch: compileWatch(definition.watch, keeperId),
    leads: leads.filter(({ lead }) => lead.on),
    tell: definition.tell
  };
}
