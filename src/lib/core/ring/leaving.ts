import { MS_PER_DAY } from '../time/day.ts';
import { formatZoned } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import { afterLeave, startHanding, substitute, type Handing } from './away.ts';
import { LONGEST_HOLD_DAYS, holdUntilReach } from './hold.ts';
import type { AwayChoice, Reader } from './reader.ts';
import type { Trace } from './why.ts';

/** What steps 5 and 6 make of a ring instant. */
export interface Leaving {
  /** Who reads it in the end. */
  reader: Reader;
  /** NaN when nobody can be reached within 370 days. */
  at: InstantMs;
}

/** Rounds of steps 5 and 6 after which a notice is taken to be never reachable; each moves by a minute at least. */
const MOST_ROUNDS = 2_000;

/**
 * Steps 5 and 6, asked again until neither moves the notice: away, then hold. Wall time is not computed again; a stand-in's
 * reach is the stand-in's.
 * @param trace collects why; null when nobody asks
 */
export function leaving(
  ringAt: InstantMs,
  recipient: Reader,
  choice: AwayChoice,
  trace: Trace = null
): Leaving {
  const handing = startHanding(recipient, choice);
  let reader = recipient;
  let at = ringAt;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let moved = false;
    if (reader.leave.covers(at)) {
      moved = true;
      const next = substitute(reader, at, handing);
      if (next) {
        traceHanded(reader, next, handing, at, trace);
        reader = next;
      } else {
        // Whoever was asked meanwhile, what waits, waits for the person it was meant for.
        const back = recipient.leave.covers(at) ? afterLeave(recipient, at) : at;
        if (!isWithinReach(ringAt, back)) return unreachable(reader, trace);
        traceWaits(recipient, at, back, trace);
        reader = recipient;
        at = back;
      }
    }
    const to = holdUntilReach(at, reader.reach);
    if (!isWithinReach(ringAt, to)) return unreachable(reader, trace);
    if (to !== at) {
      moved = true;
      const code = reader.reach.kind === 'quiet' ? 'held-quiet' : 'held';
      trace?.push({ code, params: { from: formatZoned(at, reader.zone), to: formatZoned(to, reader.zone) } });
      at = to;
    }
    if (!moved) return { reader, at };
  }
  return unreachable(reader, trace);
}

function isWithinReach(ringAt: InstantMs, at: InstantMs): boolean {
  return at - ringAt <= LONGEST_HOLD_DAYS * MS_PER_DAY;
}

function unreachable(reader: Reader, trace: Trace): Leaving {
  trace?.push({ code: 'never-reachable', params: { days: LONGEST_HOLD_DAYS } });
  return { reader, at: NaN };
}

function traceHanded(
  reader: Reader,
  next: Reader,
  { intended, choice }: Handing,
  at: InstantMs,
  trace: Trace
): void {
  // Why it is the manager: the rule says so, nobody was named to stand in, or whoever was is away too.
  const since = choice === 'pass' ? 'rule' : intended.standInAt(at) ? 'away' : 'none';
  trace?.push({
    code: next === intended.manager ? 'away-manager' : 'away-stand-in',
    params: {
      who: reader.name ?? (reader === intended ? 'The recipient' : 'The stand-in'),
      at: formatZoned(at, reader.zone),
      until: formatZoned(reader.leave.endOf(at), reader.zone),
      to: next.name ?? '',
      zone: next.zone.nameAt(at),
      ...(next === intended.manager ? { since } : {})
    }
  });
}

function traceWaits(recipient: Reader, at: InstantMs, back: InstantMs, trace: Trace): void {
  trace?.push({
    code: 'away-waits',
    params: {
      who: recipient.name ?? 'The recipient',
      at: formatZoned(at, recipient.zone),
      to: formatZoned(back, recipient.zone)
    }
  });
}
