import { decideLate, lastMinuteBefore } from '../ring/if-late.ts';
import type { Trace } from '../ring/why.ts';
import type { CompiledTell } from '../rule/program.ts';
import { formatZoned } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { RuleFacts } from './compile-rule.ts';
import type { PersonFacts, TaskFacts } from './facts.ts';
import type { Leaves, Planner } from './planner.ts';

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
  rule: RuleFacts,
  tell: CompiledTell,
  lead: CompiledLead,
  task: TaskFacts,
  recipient: PersonFacts,
  ringAt: InstantMs,
  from: InstantMs,
  trace: Trace = null
): Settled {
  const { at, readerId } = planner.leaves(tell, recipient, from, trace);
  const settled = { at, readerId, lateBell: false, dropped: false };
  if (Number.isNaN(at)) return settled;
  const choice = rule.ifLate;
  if (choice === 'keep' || choice === 'forward' || at === ringAt) {
    settled.lateBell = planner.isLate(lead, task, at, trace);
    return settled;
  }
  if (!planner.isLate(lead, task, at)) return settled;
  const { people } = planner.facts;
  const decided = decideLate(
    {
      ringAt: from,
      useBy: planner.anchorUseBy(lead, task),
      recipient: planner.readerOf(tell, recipient),
      away: tell.step.away,
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
 * The minute that a ring is brought forward to, where its rule does that with what would be late: the last one of reach before the ring
 * instant. NaN where it is not late, or no such minute lies within 370 days.
 */
export function forwardTo(
  planner: Planner,
  rule: RuleFacts,
  tell: CompiledTell,
  lead: CompiledLead,
  task: TaskFacts,
  recipient: PersonFacts,
  ringAt: InstantMs
): InstantMs {
  if (rule.ifLate !== 'forward') return NaN;
  const { at } = planner.leaves(tell, recipient, ringAt);
  if (Number.isNaN(at) || at === ringAt || !planner.isLate(lead, task, at)) return NaN;
  return lastMinuteBefore(ringAt, planner.readerOf(tell, recipient));
}

/** Why a notice leaves before its ring instant. */
export function traceForward(
  planner: Planner,
  tell: CompiledTell,
  recipient: PersonFacts,
  ringAt: InstantMs,
  to: InstantMs,
  trace: NonNullable<Trace>
): void {
  const { at, readerId } = planner.leaves(tell, recipient, ringAt);
  const zone = planner.facts.people.get(readerId)?.zone ?? recipient.zone;
  trace.push({
    code: 'brought-forward',
    params: { from: formatZoned(at, zone), to: formatZoned(to, recipient.zone) }
  });
}

/**
 * Step 9 for what step 8 would put off: whether it waits all the same, leaves now because its rule rings anyway, or is dropped because
 * its rule does not ring what is late.
 */
export function ifPutOff(
  planner: Planner,
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts,
  to: InstantMs
): 'waits' | 'leaves now' | 'is dropped' {
  if (rule.ifLate !== 'ring-anyway' && rule.ifLate !== 'skip') return 'waits';
  if (!planner.isLate(lead, task, to)) return 'waits';
  return rule.ifLate === 'skip' ? 'is dropped' : 'leaves now';
}
