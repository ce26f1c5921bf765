import { isDayLevel, type Unit } from '../../ring/lead.ts';
import type { Condition } from '../condition.ts';
import { blankDefinition, openWatch, type RuleDefinition } from '../model.ts';
import { blankTell, type Do, type Step, type Tell } from '../step-model.ts';
import { offsetLead, type EventLead, type Lead, type OffsetLead, type ScheduleLead } from '../lead-model.ts';
import type { Phase } from '../../task/model.ts';

/** A rule that is ready to be used as it is, or to begin from. */
export interface Starter {
  /** Stays the same, so that an address can name it. */
  key: string;
  name: string;
  /** What it is for, in a sentence. */
  purpose: string;
  definition: RuleDefinition;
}

/** What of a workspace starters are made for. */
export interface StarterBasis {
  /** The first status of a phase; null where there is none. */
  statusIn(phase: Phase): number | null;
  /** The day from which schedules count. */
  today: string;
  /** The workspace's usual time of day. */
  noticeTime: string;
}

export const OWNER: Tell['to'] = [{ who: 'owner' }];

export function tell(id: string, patch: Partial<Tell> = {}): Tell {
  return { ...blankTell(id), to: OWNER, ...patch };
}

export function act(id: string, name: string, acts: Do['acts'], ask: Do['ask'] = null): Do {
  return { id, kind: 'do', name, description: '', leads: null, acts, ask };
}

export function rule(
  leads: Lead[],
  steps: Step[],
  condition: Condition | null = null,
  patch: Partial<RuleDefinition> = {}
): RuleDefinition {
  return { ...blankDefinition(), leads, steps, watch: { ...openWatch(), condition }, ...patch };
}

export function on(event: EventLead['event']): Lead {
  return {
    kind: 'event',
    id: event.replaceAll(' ', '-'),
    on: true,
    only: null,
    zone: { of: 'owner' },
    event,
    wide: false
  };
}

/** Makes what starters count from. */
export function makers({ today, noticeTime }: StarterBasis) {
  return {
    at: (id: string, n: number, unit: Unit, patch: Partial<OffsetLead> = {}) =>
      offsetLead(id, n, unit, { ...(isDayLevel(unit) ? { time: noticeTime } : {}), ...patch }),
    weekly: (id: string, day: string, time: string, patch: Partial<ScheduleLead> = {}): Lead => ({
      ...{ kind: 'schedule', id, on: true, only: null, zone: { of: 'workspace' } },
      ...{ rrule: `FREQ=WEEKLY;BYDAY=${day}`, start: today, time, closedDay: 'skip', oncePerDate: false },
      ...patch
    })
  };
}
