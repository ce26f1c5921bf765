import { CodedError } from '../../errors.ts';
import type { RingInstant } from '../../ring/ring-instant.ts';
import type { Trace } from '../../ring/why.ts';
import { MS_PER_DAY } from '../../time/day.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { repeats } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';

/** Most repeats that are gone through to find the next. */
const MOST_REPEATS = 100_000;
/** A series that is skipped on so many dates in a row rings no more: nothing is walked to the end of time. */
const MOST_SKIPPED_DAYS = 400;
/** One of minutes has many to a date. */
const MOST_SKIPPED = 10_000;

/** One ring of a series. */
export interface At {
  ordinal: number;
  ringAt: InstantMs;
  originDay: number;
}

/** Who computes a ring: the planner. */
interface Rings {
  ring(
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts | null,
    trace: Trace,
    k: number
  ): Readonly<RingInstant>;
}

/** The rings of one lead for one task and recipient (null: on the owner's clock), as a series that may be skipped in places. */
export interface Series {
  planner: Rings;
  lead: CompiledLead;
  task: TaskFacts;
  recipient: PersonFacts | null;
}

/**
 * The first ring of a lead after now, and the last at or before it.
 * @throws CodedError where its first ring cannot be computed; a repeat beyond the dates handled ends the series
 */
export function aroundNow(series: Series, now: InstantMs): { next: At | null; last: At | null } {
  let last: At | null = null;
  for (let at = ringFrom(series, firstNear(series, now)); at; at = ringFrom(series, at.ordinal + 1)) {
    if (at.ringAt > now) return { next: at, last };
    last = at;
  }
  return { next: null, last };
}

/** The next ring of the series behind one, at the same instant or later; null where it ends. */
export function ringBehind(series: Series, { ordinal }: At): At | null {
  return ringFrom(series, ordinal + 1);
}

/** A ring and the repeats behind it that come to the same instant, as those do that a closed-day rule moves to one day. */
export function sameInstant(series: Series, first: At): At[] {
  const found = [first];
  for (let at = ringBehind(series, first); at?.ringAt === first.ringAt; at = ringBehind(series, at))
    found.push(at);
  return found;
}

/** The first ring at or behind an ordinal that is not skipped. */
function ringFrom(series: Series, from: number): At | null {
  const end = repeats(series.lead) ? Math.min(MOST_REPEATS, from + MOST_SKIPPED) : 1;
  let [days, day] = [0, NaN];
  for (let ordinal = from; ordinal < end; ordinal++) {
    const at = ringOf(series, ordinal);
    if (!at) return null;
    if (!Number.isNaN(at.ringAt)) return at;
    // A ladder that stands still for good rings no more; a repeat that the closed-day rule skips is passed over.
    if (series.lead.rung) return null;
    if (at.originDay !== day && ++days > MOST_SKIPPED_DAYS) return null;
    day = at.originDay;
  }
  return null;
}

/** One ring, with NaN where it is skipped; null for a repeat beyond the dates handled. */
function ringOf({ planner, lead, task, recipient }: Series, ordinal: number): At | null {
  try {
    const { instant, originDay } = planner.ring(lead, task, recipient, null, ordinal);
    return { ordinal, ringAt: instant, originDay };
  } catch (error) {
    if (ordinal > 0 && error instanceof CodedError && error.code === 'date-out-of-range') return null;
    throw error;
  }
}

/** A repeat at or before now behind which nothing before now is missed, so that a series that began long ago is not walked from its beginning. */
function firstNear(series: Series, now: InstantMs): number {
  if (!repeats(series.lead)) return 0;
  const isPast = (k: number) => {
    const at = ringOf(series, k);
    if (!at) return false;
    if (!Number.isNaN(at.ringAt)) return at.ringAt <= now;
    // What is skipped has its date all the same; two days leave room for any zone.
    return !series.lead.rung && (at.originDay + 2) * MS_PER_DAY <= now;
  };
  let step = 1;
  while (step < MOST_REPEATS && isPast(step)) step *= 2;
  let [low, high] = [step >> 1, step];
  while (high - low > 8) {
    const middle = (low + high) >> 1;
    if (isPast(middle)) low = middle;
    else high = middle - 1;
  }
  // Back to one that rings, so that the last ring before now is known.
  for (let k = low; k > Math.max(0, low - MOST_SKIPPED); k--) {
    const at = ringOf(series, k);
    if (at && !Number.isNaN(at.ringAt) && at.ringAt <= now) return k;
  }
  return 0;
}
