import { holdUntilReach } from '../ring/hold.ts';
import type { InstantMs } from '../time/zone.ts';
import { forwardAlone } from './bring-forward.ts';
import { isReachable } from './facts.ts';
import type { Planner } from './planner.ts';
import { ownersOf } from './recipients.ts';
import { isCarriedPast } from './settle.ts';
import type { Telling } from './telling.ts';

/** Nobody is waited for. */
const NOBODY = -Infinity;

/**
 * “In order”: what others are told of a ring waits for the owners' notices, where a hold puts those off.
 * @param now when that is asked: a minute before it that an owner was to be told at is gone, unless they were told
 * @returns the instant before which it does not leave; the ring instant itself where nothing is waited for
 */
export function afterOwner(planner: Planner, of: Telling, ringAt: InstantMs, now: InstantMs): InstantMs {
  return Math.max(ringAt, ownersLeave(planner, of, now));
}

/**
 * The minute that a ring is brought forward to. Nobody else's notice is brought forward to before the minute at which the owners' leaves:
 * where that leaves no minute, it is kept.
 * @returns NaN where it is not brought forward
 */
export function forwardTo(planner: Planner, of: Telling, ringAt: InstantMs, now: InstantMs): InstantMs {
  const at = forwardAlone(planner, of, ringAt);
  return at >= ownersLeave(planner, of, now) ? at : NaN;
}

/** When the last of the owners is told of a ring; before all time where nobody is waited for. */
function ownersLeave(planner: Planner, { rule, lead, task, recipient, ordinal }: Telling, now: InstantMs) {
  if (!rule.ordered || lead.anchor === null) return NOBODY;
  const owners = ownersOf(task);
  if (owners.includes(recipient.id)) return NOBODY;
  const tell = rule.program.leading.find(({ step }) => step.to.some(({ who }) => who === 'owner'));
  if (!tell) return NOBODY;
  let last = NOBODY;
  for (const id of owners) {
    const owner = planner.facts.people.get(id);
    if (owner && planner.audience.leadsFor(rule, tell, task, owner).includes(lead))
      last = Math.max(last, ownerLeaves(planner, { rule, tell, lead, task, recipient: owner, ordinal }, now));
  }
  return last;
}

/** Only a hold is waited for: not a leave, nor an owner who is hushed or cannot be reached. */
function ownerLeaves(planner: Planner, of: Telling, now: InstantMs): InstantMs {
  const { rule, tell, lead, task, recipient: owner, ordinal } = of;
  if (!isReachable(owner)) return NOBODY;
  const { instant } = planner.ring(lead, task, owner, null, ordinal);
  if (Number.isNaN(instant) || planner.isHushed(rule, tell, task, owner, instant)) return NOBODY;
  if (owner.leave.covers(instant)) return NOBODY;
  const left = holdUntilReach(instant, planner.reach(tell, owner));
  if (Number.isNaN(left) || owner.leave.covers(left)) return NOBODY;
  if (rule.ifLate === 'keep' || !isCarriedPast(planner, of, instant, left)) return left;
  switch (rule.ifLate) {
    case 'skip':
      return NOBODY;
    case 'ring-anyway':
      return instant;
    case 'forward': {
      const forward = forwardAlone(planner, of, instant);
      // One whose minute was gone when it was planned stayed where the hold had put it.
      return forward >= now || planner.hasTold(of) ? forward : left;
    }
  }
}
