import { KINDS } from '../../notice/kinds.ts';
import type { DayLimits, Outgoing } from '../../ring/cap.ts';
import { nextDigestHour } from '../../ring/digest-hour.ts';
import type { InstantMs } from '../../time/zone.ts';
import { leadOf, type RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import { noticeKind } from './notice-kind.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';

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
  {
    leavesAt,
    ringAt,
    taskId,
    leadId,
    stepId
  }: Pick<PlannedNotice, 'leavesAt' | 'ringAt' | 'taskId' | 'leadId' | 'stepId'>,
  rule: RuleFacts | undefined,
  task: TaskFacts | null | undefined,
  dueAt: InstantMs | null | undefined
): Outgoing {
  const lead = leadOf(rule, task, leadId);
  const tell = rule?.program.tells.get(stepId);
  const kind = lead && tell ? noticeKind(tell, lead) : null;
  const force = tell?.step.force ?? null;
  return {
    id,
    at: leavesAt,
    held: leavesAt !== ringAt,
    fold: tell?.step.fold ?? false,
    // Whom a ladder climbs to hears at once.
    exempt: force !== null || (kind !== null && KINDS[kind].passesLimit) || (lead?.rung?.number ?? 0) > 1,
    overdue: kind !== null && KINDS[kind].countsAsOverdue,
    urgency: force === null ? 0 : 1,
    dueAt: dueAt ?? Infinity,
    rulePosition: rule?.position ?? 0,
    taskId
  };
}
