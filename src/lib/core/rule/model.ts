import type { AwayChoice } from '../ring/reader.ts';
import type { ClosedDayRule, Unit } from '../ring/lead.ts';

/** The phases that code relies on; a workspace names its statuses as it likes, each in one of these. */
export const PHASES = ['waiting to start', 'under way', 'stuck on others', 'finished', 'closed'] as const;
export type Phase = (typeof PHASES)[number];

/** The phases of open work. */
export const OPEN_PHASES: readonly Phase[] = ['waiting to start', 'under way', 'stuck on others'];

export function isOpen(phase: Phase): boolean {
  return phase !== 'finished' && phase !== 'closed';
}

/** From 0 notches to 3. */
export const PRIORITIES = ['low', 'ordinary', 'high', 'pressing'] as const;
export type Priority = (typeof PRIORITIES)[number];

/** Which tasks a rule looks at. */
export interface Watch {
  /** Project ids; null is everything, tasks without a project too. */
  projects: number[] | null;
  phases: Phase[];
  priorities: Priority[];
}

/** On whose wall a lead's time of day is read. */
export type ZoneChoice =
  { of: 'recipient' | 'owner' | 'project' | 'workspace' } | { of: 'named'; zone: string };

/** Dates of a task that a lead can be counted from. */
export const LEAD_ANCHORS = ['due', 'start', 'remind on'] as const;
export type LeadAnchor = (typeof LEAD_ANCHORS)[number];

/** One ring time written in a rule. Its id stays through edits of time, zone, closed-day rule and words. */
export interface Lead {
  id: string;
  anchor: LeadAnchor;
  /** Negative is before. */
  n: number;
  unit: Unit;
  closedDay: ClosedDayRule;
  /** `HH:MM`; null keeps the anchor's own time, or takes the workspace's notice time on a date. */
  time: string | null;
  zone: ZoneChoice;
  on: boolean;
}

/** Who hears, how, and in which words. */
export interface Tell {
  to: 'owner' | 'manager' | null;
  channel: 'mail';
  reach: 'working hours' | 'outside quiet hours' | 'any time';
  /** What happens while the recipient is on leave. */
  away: AwayChoice;
  /** Text with merge fields written ‹like this›. */
  subject: string;
  body: string;
}

/** What one version of a rule says. */
export interface RuleDefinition {
  watch: Watch;
  leads: Lead[];
  tell: Tell;
}

/** The most leads one rule may carry. */
export const MOST_LEADS = 30;

/** What a new rule says before anything is chosen. */
export function blankDefinition(): RuleDefinition {
  return {
    watch: { projects: null, phases: [...OPEN_PHASES], priorities: [...PRIORITIES] },
    leads: [],
    tell: {
      to: null,
      channel: 'mail',
      reach: 'working hours',
      away: 'stand-in',
      subject: '‹task› is ‹days left›',
      body: 'Good day ‹first name›,\n\n‹task› in ‹project› is ‹days left›: ‹due›.\n\n‹link›'
    }
  };
}

/**
 * Gives each lead of an edited definition its id: the id of a lead of the version before with the same anchor, count
 * and unit is kept, so that what has rung stays rung; a change of these three is a new lead.
 */
export function keepLeadIds(edited: readonly Lead[], before: readonly Lead[], nextId: () => string): Lead[] {
  const taken = new Set<string>();
  const same = (a: Lead, b: Lead) => a.anchor === b.anchor && a.n === b.n && a.unit === b.unit;
  return edited.map((lead) => {
    const candidates = before.filter((old) => same(lead, old) && !taken.has(old.id));
    const kept = candidates.find((old) => old.id === lead.id) ?? candidates[0];
    const id = kept?.id ?? nextId();
    taken.add(id);
    return { ...lead, id };
  });
}
