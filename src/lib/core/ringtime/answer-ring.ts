import { CodedError } from '../errors.ts';
import { decideLate, type Decided } from '../ring/if-late.ts';
import { canBeLate } from '../ring/late.ts';
import { leaving } from '../ring/leaving.ts';
import { useByOfAnchor } from '../ring/moments.ts';
import { ringInstant } from '../ring/ring-instant.ts';
import type { Shift } from '../ring/shift.ts';
import { whyText } from '../ring/why-text.ts';
import type { Trace, WhyStep } from '../ring/why.ts';
import { formatDay } from '../time/day.ts';
import { formatInstant, formatZoned } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import type { RingAnswer, RingCase } from './case.ts';
import type { ReadCase } from './read.ts';

/** Repeats that are looked at for each one asked for: closed days and merges use some up. */
const STEPS_FOR_ONE = 400;

/** One ring, carried through the pipeline. */
interface Rung extends Decided {
  ringAt: InstantMs;
}

/** `ask: ring`: the instant at which it leaves, where it stands on the reader's wall, and why; with repeats all instants. */
export function answerRing(read: ReadCase, ringCase: RingCase): RingAnswer {
  const { repeat } = ringCase;
  const instants: InstantMs[] = [];
  const shift = repeat ? { ...repeat, k: repeats(read, ringCase, repeat, instants) } : null;
  const why: WhyStep[] = [];
  const answer = described(carry(read, ringCase, shift, why), why, read);
  return repeat ? { ...answer, instants: instants.map(formatInstant) } : answer;
}

/** Steps 1 to 6 and 9 of one ring, or of one of its repeats. */
function carry(read: ReadCase, ringCase: RingCase, shift: Shift | null, trace: Trace): Rung {
  const { lead, anchor, context, recipient, away } = read;
  const ringAt = ringInstant(lead, anchor, context, { instant: NaN, originDay: 0 }, trace, shift).instant;
  const unrung = { reader: recipient, at: NaN, lateBell: false, ringAt };
  if (Number.isNaN(ringAt)) return unrung;
  const left = leaving(ringAt, recipient, away, trace);
  if (Number.isNaN(left.at)) return { ...unrung, reader: left.reader };
  // A repeat has lost its point when the next one comes: what its anchor's date says concerns the first ring alone.
  if (!canBeLate(lead, anchor) || (shift && shift.k > 0)) return { ...left, lateBell: false, ringAt };
  const { kind, anchorZone, endOfDay, dueCalendar, closeZone } = context;
  const useBy = useByOfAnchor(kind, anchor, anchorZone, endOfDay, dueCalendar, closeZone);
  const ring = { ringAt, from: ringAt, useBy, recipient, away, leaving: left };
  return { ...decideLate(ring, ringCase.ifLate ?? 'keep', trace), ringAt };
}

/**
 * Collects the instants of a repeated ring. Repeats that end at the same instant are one, and neither they nor those that do not
 * ring use up the count.
 * @returns which repeat is described: the first that rings, and of several at its instant the latest
 * @throws CodedError `repeat-step` or `repeat-endless`
 */
function repeats(
  read: ReadCase,
  ringCase: RingCase,
  { n, unit, count }: NonNullable<RingCase['repeat']>,
  instants: InstantMs[]
): number {
  if (n < 1) throw new CodedError('repeat-step', { n, unit }, 'repeat.n');
  let winner: number | null = null;
  const most = count * STEPS_FOR_ONE;
  for (let k = 0; ; k++) {
    if (k > most) throw new CodedError('repeat-endless', { count, most }, 'repeat');
    const { at, ringAt } = carry(read, ringCase, { k, n, unit }, null);
    // A later one that is held to the instant of the first may still come, as long as it rings by then.
    if (instants.length >= count && ringAt > instants[0]!) return winner!;
    if (Number.isNaN(at)) continue;
    if (instants.length === 0 || at === instants[0]) winner = k;
    if (instants.length < count && !instants.includes(at)) instants.push(at);
  }
}

function described(rung: Rung, why: readonly WhyStep[], { context, recipient }: ReadCase): RingAnswer {
  const { at, reader, ringAt, lateBell } = rung;
  const steps = why.map((step) => ({ ...step, text: whyText(step) }));
  if (Number.isNaN(at)) return { instant: null, why: steps };
  // The reader's own wall where somebody else reads it, the ring's zone otherwise.
  const zone = reader === recipient ? context.zone : reader.zone;
  const held = at > ringAt && why.some(({ code }) => code === 'held' || code === 'held-quiet');
  return {
    instant: formatInstant(at),
    local: formatZoned(at, zone),
    date: formatDay(zone.dayOf(at)),
    ...(held ? { heldFrom: formatInstant(ringAt) } : {}),
    ...(lateBell ? { lateBell: true } : {}),
    why: steps
  };
}
