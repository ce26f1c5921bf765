import type { CompiledCalendar } from '../calendar/compiled.ts';
import type { EndOfDay } from '../ring/moments.ts';
import type { LeadTiming } from '../ring/lead.ts';
import type { Lead, Phase, Priority, RuleDefinition } from '../rule/model.ts';
import { compileWatch, type CompiledWatch } from '../rule/watch.ts';
import type { Moment } from '../time/instant.ts';
import { parseTimeOfDay, type MinuteOfDay } from '../time/time-of-day.ts';
import { zoneNamed, type Zone } from '../time/zone.ts';

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
  zone: Zone;
  /** Base calendar, in the person's zone. */
  calendar: CompiledCalendar;
  managerId: number | null;
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
 * @throws CodedError for a time or zone that does not exist
 */
export function compileRule(
  id: number,
  name: string,
  position: number,
  definition: RuleDefinition
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
    watch: compileWatch(definition.watch),
    leads: leads.filter(({ lead }) => lead.on),
    tell: definition.tell
  };
}
