import { lastMinuteBefore } from '../../ring/if-late.ts';
import type { Trace } from '../../ring/why.ts';
import { formatZoned } from '../../time/instant.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { Planner } from '../plan/planner.ts';
import { isCarriedPast } from './settle.ts';
import type { Telling } from '../plan/telling.ts';

/**
 * The minute that a ring is brought forward to, where its rule does that with what would be late, whoever else is told of it: the last
 * one of reach before the ring instant. NaN where it is not carried past its use-by, or no such minute lies within 370 days.
 */
export function forwardAlone(planner: Planner, of: Telling, ringAt: InstantMs): InstantMs {
  if (of.rule.ifLate !== 'forward') return NaN;
  const { tell, recipient } = of;
  const { at } = planner.leaves(tell, recipient, ringAt);
  if (!isCarriedPast(planner, of, ringAt, at)) return NaN;
  return lastMinuteBefore(ringAt, planner.readerOf(tell, recipient));
}

/** Why a notice leaves before its ring instant. */
export function traceForward(
  planner: Planner,
  { tell, recipient }: Telling,
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
