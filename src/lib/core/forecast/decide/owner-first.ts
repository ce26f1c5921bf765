import { ifComputable } from '../../if-computable.ts';
import { holdUntilReach } from '../../ring/hold.ts';
import type { InstantMs } from '../../time/zone.ts';
import { forwardAlone } from './bring-forward.ts';
import type { CompiledTell } from '../../rule/program.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { isReachable, type PersonFacts } from '../facts/facts.ts';
import type { Planner } from '../plan/planner.ts';
import { ownersOf } from '../facts/recipients.ts';
import { isOnRecipientsClock } from '../plan/seats.ts';
import { isCarriedPast } from './settle.ts';
import type { Telling } from '../plan/telling.ts';

/** Nobody is waited for. */
const NOBODY = -Infinity;

/**
 * “In order”: what others are told of a ring waits for the owners' notices, where a hold puts those off.
 * @param from before which it does not leave anyhow
 * @param now when that is asked: a minute before it that an owner was to be told at is gone, unless they were told
 * @param rangAt the instant of the ring, where it leaves no sooner than later
 * @returns the instant before which it does not leave; `from` itself where nothing is waited for
 */
export function afterOwner(
  planner: Planner,
  of: Telling,
  from: InstantMs,
  now: InstantMs,
  rangAt: InstantMs = from
): InstantMs {
  return Math.max(from, ownersLeave(planner, of, now, rangAt));
}

/**
 * The minute that a ring is brought forward to. Nobody else's notice is brought forward to before the minute at which the owners' leaves:
 * where that leaves no minute, it is kept.
 * @returns NaN where it is not brought forward
 */
export function forwardTo(planner: Planner, of: Telling, ringAt: InstantMs, now: InstantMs): InstantMs {
  const at = forwardAlone(planner, of, ringAt);
  return at >= ownersLeave(planner, of, now, ringAt) ? at : NaN;
}

/** When the last of the owners is told of a ring; before all time where nobody is waited for. */
function ownersLeave(planner: Planner, of: Telling, now: InstantMs, rangAt: InstantMs): InstantMs {
  const { rule, lead, task, recipient, ordinal } = of;
  // Of a schedule only what is timed for each recipient.
  const onOwn = isOnRecipientsClock(lead) && rule.program.leading.includes(of.tell);
  if (!rule.ordered || (lead.anchor === null && !onOwn)) return NOBODY;
  const owners = ownersOf(task);
  if (owners.includes(recipient.id)) return NOBODY;
  const tell = rule.program.leading.find(({ step }) => step.to.some(({ who }) => who === 'owner'));
  if (!tell) return NOBODY;
  let last = NOBODY;
  for (const id of owners) {
    const owner = planner.facts.people.get(id);
    if (
      !owner ||
      !(onOwn ? answers(tell, lead) : planner.audience.leadsFor(rule, tell, task, owner).includes(lead))
    )
      continue;
    const telling = { rule, tell, lead, task, recipient: owner, ordinal };
    const instant = onOwn
      ? onOwnersClock(planner, of, owner, rangAt)
      : planner.ring(lead, task, owner, null, ordinal).instant;
    last = Math.max(last, ownerLeaves(planner, telling, instant, now));
  }
  return last;
}

/** When the occurrence that rings for somebody rings for an owner, on the owner's own clock; NaN where that leaves it out. */
function onOwnersClock(
  planner: Planner,
  { lead, task, recipient }: Telling,
  owner: PersonFacts,
  rangAt: InstantMs
): InstantMs {
  const occurrence = planner.clocks.of(lead, task, recipient).lastBy(rangAt);
  if (!occurrence) return NaN;
  // An owner by whose calendar nothing can be counted is not rung, and so not waited for.
  return (
    ifComputable(() => planner.clocks.of(lead, task, owner).ringOf(occurrence.last, rangAt), null)?.at ?? NaN
  );
}

function answers({ leads }: CompiledTell, { lead: { id } }: CompiledLead): boolean {
  return leads === null || leads.has(id);
}

/** Only a hold is waited for: not a leave, nor an owner who is hushed or cannot be reached. */
function ownerLeaves(planner: Planner, of: Telling, instant: InstantMs, now: InstantMs): InstantMs {
  const { rule, tell, task, recipient: owner } = of;
  if (!isReachable(owner)) return NOBODY;
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
