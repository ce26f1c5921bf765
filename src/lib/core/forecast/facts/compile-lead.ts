import { ANCHORS, type LeadAnchor } from '../../anchor/anchors.ts';
import { defaultClosedDay, isDayLevel, type AnchorKind, type LeadTiming } from '../../ring/lead.ts';
import { parseRecurrenceRule } from '../../recurrence/rrule.ts';
import type { Schedule } from '../../recurrence/schedule.ts';
import { folded } from '../../rule/compile-condition.ts';
import { isRung, type Lead, type LeadFilter, type OffsetLead } from '../../rule/lead-model.ts';
import { MS_PER_MINUTE, parseDay, type Day } from '../../time/day.ts';
import type { Moment } from '../../time/instant.ts';
import { parseTimeOfDay } from '../../time/time-of-day.ts';
import { zoneNamed, type Zone } from '../../time/zone.ts';

/** A lead made ready for many tasks. */
export interface CompiledLead {
  lead: Lead;
  ruleId: number;
  order: number;
  /** Of an offset; what happens at once has none. */
  timing: LeadTiming;
  /** The named zone, where the lead names one. */
  namedZone: Zone | null;
  /** A moment of its own, counted from instead of a date of the task. */
  moment: Moment | null;
  /** From what it is counted; null for a schedule, an event or by hand. */
  anchor: LeadAnchor | null;
  /** Which moment its anchor stands for. */
  kind: AnchorKind;
  /** What its anchor is called in `why`. */
  anchorName: string;
  /** Whether it announces something that can be over: a reminder date is only when people want to hear. */
  announces: boolean;
  /** Of a schedule; its zone and start are known once the workspace's zone is. */
  schedule: Omit<Schedule, 'zone'> | null;
  /** Of a schedule that tells what has come and is not told: the first date that counts. */
  since: Day | null;
  /** Folded names of the tags that it asks for. */
  tags: ReadonlySet<string> | null;
  /** Where it is a rung of a ladder. */
  rung: RungPlace | null;
  /** It is counted from nothing, and its rule looks at what is late alone. */
  watchesLate: boolean;
}

/** What a rung has besides other leads. */
export interface RungPlace {
  /** From 1, as they stand in the rule; those that are switched off are not counted. */
  number: number;
  /** Timings for some tasks; the first that holds counts, and without one the lead's own. */
  instead: readonly { only: LeadFilter; tags: ReadonlySet<string> | null; timing: LeadTiming }[];
  /** Every rung of the ladder, this one too. */
  ladder: readonly CompiledLead[];
  /** The clock stands still while the first owner is on leave. */
  awayStops: boolean;
}

const AT_ONCE: LeadTiming = { n: 0, unit: 'minute', closedDay: 'as-is', minute: null };

/**
 * @param moment what is counted from instead of a date of the task
 * @throws CodedError for a time, zone, date or recurrence that cannot be read
 */
export function compileLead(
  lead: Lead,
  order: number,
  moment: Moment | null = null,
  ruleId = 0
): CompiledLead {
  const anchor = anchorOf(lead);
  return {
    lead,
    ruleId,
    order,
    timing: timingOf(lead),
    namedZone: lead.zone.of === 'named' ? zoneNamed(lead.zone.zone) : null,
    moment,
    anchor,
    kind: moment || anchor === null ? 'start' : momentKind(anchor, lead),
    anchorName: moment ? 'reminder' : (anchor ?? ''),
    announces: moment === null && anchor !== null && canBeOver(anchor),
    schedule:
      lead.kind === 'schedule'
        ? {
            rule: parseRecurrenceRule(lead.rrule),
            start: { day: parseDay(lead.start), timeMs: parseTimeOfDay(lead.time) * MS_PER_MINUTE },
            closedDay: lead.closedDay
          }
        : null,
    since:
      lead.kind === 'schedule' && lead.oncePerDate && lead.since !== undefined ? parseDay(lead.since) : null,
    tags: foldedTags(lead.only),
    rung: null,
    watchesLate: false
  };
}

/** What rings by a schedule or by hand, of a rule that looks at what is late alone, says so. */
export function markLate(leads: readonly CompiledLead[]): void {
  for (const one of leads) one.watchesLate = one.anchor === null && one.lead.kind !== 'event';
}

/** Makes the rungs among the leads of a rule one ladder. */
export function joinLadder(leads: readonly CompiledLead[], awayStops: boolean): void {
  const ladder = leads.filter(({ lead }) => isRung(lead));
  ladder.forEach((rung, i) => {
    const { instead = [], time } = rung.lead as OffsetLead;
    rung.rung = {
      number: i + 1,
      instead: instead.map(({ only, n, unit }) => ({
        only,
        tags: foldedTags(only),
        timing: rungTiming(n, unit, time)
      })),
      ladder,
      awayStops
    };
  });
}

function rungTiming(n: number, unit: LeadTiming['unit'], time: string | null): LeadTiming {
  const minute = isDayLevel(unit) && time !== null ? parseTimeOfDay(time) : null;
  return { n, unit, closedDay: defaultClosedDay(n, unit), minute };
}

function foldedTags(only: LeadFilter | null): ReadonlySet<string> | null {
  return only && only.tags.length > 0 ? new Set(only.tags.map(folded)) : null;
}

/** A task becomes overdue at its due moment: that event is a ring like any other. */
function anchorOf(lead: Lead): LeadAnchor | null {
  if (lead.kind === 'offset') return lead.anchor;
  return lead.kind === 'event' && lead.event === 'became overdue' ? 'due' : null;
}

function timingOf(lead: Lead): LeadTiming {
  if (lead.kind !== 'offset') return AT_ONCE;
  const { n, unit, closedDay, time } = lead;
  return { n, unit, closedDay, minute: time === null ? null : parseTimeOfDay(time) };
}

function momentKind(anchor: LeadAnchor, lead: Lead): AnchorKind {
  if (anchor === 'own date') return (lead as OffsetLead).field?.end === 'until' ? 'due' : 'start';
  const of = ANCHORS[anchor];
  return of.happened ? 'start' : of.marks;
}

/** Whether an anchor stands for a date that can be over. */
function canBeOver(anchor: LeadAnchor): boolean {
  const of = ANCHORS[anchor];
  return !of.happened && of.announced;
}
