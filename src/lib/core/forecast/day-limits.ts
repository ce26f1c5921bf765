import type { DayLimits, Outgoing } from '../ring/cap.ts';
import { nextDigestHour } from '../ring/digest-hour.ts';
import type { InstantMs } from '../time/zone.ts';
import { leadOf, type PersonFacts, type RuleFacts, type TaskFacts } from './facts.ts';
import type { PlannedNotice } from './planner.ts';

/** What a person's day allows, from what they set: their most of messages, and when what is more leaves. */
export function limitsOf(
  person: PersonFacts,
  sentOn: ReadonlyMap<number, number>,
  waitingAt: readonly InstantMs[] = []
): DayLimits {
  const { zone, dailyCap, digestMinutes, calendar } = person;
  return {
    zone,
    cap: dailyCap,
    sentOn,
    waitingAt,
    nextDigest: (after, { overdue }) => {
      const minute = overdue
        ? (digestMinutes.overdue ?? digestMinutes.due)
        : (digestMinutes.due ?? digestMinutes.overdue);
      const at = minute === null ? NaN : nextDigestHour(after, minute, person);
      return Number.isNaN(at) ? null : at;
    },
    nextOpening: (after) => calendar.spans.nextOpening(after)
  };
}

/** A notice as it comes to step 8. */
export function outgoingOf(
  id: number,
  { leavesAt, ringAt, taskId, leadId }: Pick<PlannedNotice, 'leavesAt' | 'ringAt' | 'taskId' | 'leadId'>,
  rule: RuleFacts | undefined,
  task: TaskFacts | null | undefined,
  dueAt: InstantMs | null | undefined
): Outgoing {
  const lead = leadOf(rule, task, leadId);
  return {
    id,
    at: leavesAt,
    held: leavesAt !== ringAt,
    fold: false,
    exempt: false,
    overdue: (lead?.lead.n ?? 0) > 0,
    urgency: 0,
    dueAt: dueAt ?? Infinity,
    rulePosition: rule?.position ?? 0,
    taskId
  };
}
