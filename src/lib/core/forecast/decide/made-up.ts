import { holdUntilReach, nextOpening } from '../../ring/hold.ts';
import type { WhyStep } from '../../ring/why.ts';
import type { InstantMs } from '../../time/zone.ts';
import { hushedWhy, unreachable } from '../explain/explain.ts';
import { isReachable, type TaskFacts } from '../facts/facts.ts';
import type { Planner } from '../plan/planner.ts';
import type { UnrungReason } from '../plan/planned-notice.ts';
import { quietReason, quietWhy } from './quiet.ts';
import type { Telling } from '../plan/telling.ts';

/** Why a past ring may be owed, by the table of past instants. */
export type PastCause = 'created' | 'moved' | 'came true' | 'new recipient' | 'turned on';

/** What becomes of a ring that has passed and is owed. */
export interface MadeUp {
  /** Why it is not sent; null when it is, at `leavesAt`. */
  reason: UnrungReason | null;
  leavesAt: InstantMs | null;
  readerId: number;
  why: WhyStep[];
}

const CAUSE_WORDS: Record<PastCause, string> = {
  created: 'the task was created',
  moved: 'its date changed',
  'came true': 'it began to match the rule',
  'new recipient': 'they became a recipient',
  'turned on': 'the rule was turned on'
};

/** A ring that has passed and is owed. */
export interface OwedRing {
  ringAt: InstantMs;
  cause: PastCause;
  /** Who made the change by which it is owed. */
  actorId: number | null;
}

/**
 * What becomes of the latest past ring of a rule, Tell and recipient: it leaves now when the recipient is in reach, else at the next opening.
 * What is quiet is not told afterwards: neither what rang in the quiet, nor what comes to be owed in it.
 * @param now in ms
 */
export function madeUp(
  planner: Planner,
  of: Telling,
  { ringAt, cause, actorId }: OwedRing,
  now: InstantMs
): MadeUp {
  const { rule, tell, task, recipient } = of;
  const not = (reason: UnrungReason, ...why: WhyStep[]): MadeUp => ({
    ...{ reason, leavesAt: null, readerId: recipient.id, why }
  });
  const quiet = [ringAt, now].find((at) => planner.isHushed(rule, tell, task, recipient, at));
  if (quiet !== undefined) return not('hushed', hushedWhy(planner, of, quiet));
  for (const at of [ringAt, now]) {
    const reason = quietReason(planner, of, at);
    if (reason) return not(reason, quietWhy(planner, of, reason, at));
  }
  if (cause === 'came true' && rule.past.cameTrue === 'that day' && !isSameDay(planner, task, ringAt, now))
    return not('too late');
  // A date moved into the past is never made up to the one who moved it.
  if (cause === 'moved' && recipient.id === actorId) return not('already told');
  if (!isReachable(recipient)) return not('never reachable', unreachable(recipient));
  const atOnce = cause === 'created' && rule.past.created === 'at once';
  const reach = planner.reach(tell, recipient);
  const inReach = atOnce || (cause !== 'turned on' && holdUntilReach(now, reach) === now);
  const opening = inReach ? now : nextOpening(now, reach, recipient.calendar.spans);
  const why: WhyStep[] = [
    { code: 'caught-up', params: { cause: CAUSE_WORDS[cause], how: inReach ? 'now' : 'opening' } }
  ];
  if (Number.isNaN(opening)) return not('never reachable', ...why);
  if (atOnce) return { reason: null, leavesAt: now, readerId: recipient.id, why };
  const { at, readerId } = planner.leaves(tell, recipient, opening, why);
  return Number.isNaN(at) ? not('never reachable', ...why) : { reason: null, leavesAt: at, readerId, why };
}

function isSameDay(planner: Planner, task: TaskFacts, a: InstantMs, b: InstantMs): boolean {
  const zone = planner.dates.ownerZone(task);
  return zone.dayOf(a) === zone.dayOf(b);
}
