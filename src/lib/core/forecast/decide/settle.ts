import { decideLate } from '../../ring/if-late.ts';
import type { Trace } from '../../ring/why.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { Leaves, Planner } from '../plan/planner.ts';
import type { Telling } from '../plan/telling.ts';

/** What steps 5, 6 and 9 make of a ring for one recipient. */
export interface Settled extends Leaves {
  lateBell: boolean;
  /** The rule does not ring what would be late. */
  dropped: boolean;
}

/**
 * Steps 5, 6 and 9: when a notice leaves, who reads it, and whether it is a late bell; `at` is NaN when nobody can be reached.
 * One that could be brought forward was, before its ring instant came; what is left of those is kept.
 * @param ringAt the ring instant
 * @param from when it is told: the ring instant, or later where the owner hears first or the server was down
 */
export function settle(
  planner: Planner,
  of: Telling,
  ringAt: InstantMs,
  from: InstantMs,
  trace: Trace = null
): Settled {
  const { rule, tell, lead, task, recipient } = of;
  const { at, readerId } = planner.leaves(tell, recipient, from, trace);
  const settled = { at, readerId, lateBell: false, dropped: false };
  if (Number.isNaN(at)) return settled;
  const choice = rule.ifLate;
  if (choice === 'keep' || choice === 'forward' || !isCarriedPast(planner, of, ringAt, at)) {
    settled.lateBell = isLateBell(planner, of, ringAt, at, trace);
    return settled;
  }
  const { people } = planner.facts;
  const decided = decideLate(
    {
      ...{ ringAt, from, away: tell.step.away },
      useBy: planner.anchorUseBy(lead, task),
      recipient: planner.readerOf(tell, recipient),
      leaving: { reader: planner.readerOf(tell, people.get(readerId) ?? recipient), at }
    },
    choice,
    trace
  );
  const reader = (decided.reader as ReturnType<Planner['readerOf']>).person.id;
  if (Number.isNaN(decided.at)) return { at, readerId: reader, lateBell: true, dropped: true };
  return { at: decided.at, readerId: reader, lateBell: decided.lateBell, dropped: false };
}

/**
 * Whether a notice that leaves then is a late bell: it comes when what it announces is over. Where somebody stood in for the recipient at
 * the ring instant nothing is late.
 */
export function isLateBell(
  planner: Planner,
  { tell, lead, task, recipient, ordinal }: Telling,
  ringAt: InstantMs,
  leavesAt: InstantMs,
  trace: Trace = null
): boolean {
  if (planner.isStoodInFor(tell, recipient, ringAt)) return false;
  return planner.isLate(lead, task, ordinal, leavesAt, trace);
}

/** Whether leave, hold, cap or fold carry a notice to its use-by or past it: one that rings there by itself was not carried. */
export function isCarriedPast(
  planner: Planner,
  of: Telling,
  ringAt: InstantMs,
  leavesAt: InstantMs
): boolean {
  return isLateBell(planner, of, ringAt, leavesAt) && ringAt < planner.anchorUseBy(of.lead, of.task);
}

/**
 * Step 9 for what step 8 would put off: whether it waits all the same, leaves now because its rule rings anyway, or is dropped because
 * its rule does not ring what is late.
 */
export function ifPutOff(
  planner: Planner,
  of: Telling,
  ringAt: InstantMs,
  to: InstantMs
): 'waits' | 'leaves now' | 'is dropped' {
  const { ifLate } = of.rule;
  if (ifLate !== 'ring-anyway' && ifLate !== 'skip') return 'waits';
  if (!isCarriedPast(planner, of, ringAt, to)) return 'waits';
  return ifLate === 'skip' ? 'is dropped' : 'leaves now';
}
