import { MS_PER_DAY, MS_PER_MINUTE } from '../time/day.ts';
import { formatZoned } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import { isStoodInFor } from './away.ts';
import { LONGEST_HOLD_DAYS, lastInReach } from './hold.ts';
import type { Leaving } from './leaving.ts';
import type { AwayChoice, Reader } from './reader.ts';
import type { Trace } from './why.ts';

/** What a rule does with a ring that leave, hold or cap would carry to or past its use-by. */
export const LATE_CHOICES = ['keep', 'ring-anyway', 'forward', 'skip'] as const;
export type LateChoice = (typeof LATE_CHOICES)[number];

/** A ring that can be a late bell, as steps 5 and 6 left it. */
export interface LateRing {
  /** The ring instant. */
  ringAt: InstantMs;
  /** When it is told: the ring instant, or later where others are told first or the server was down. */
  from: InstantMs;
  useBy: InstantMs;
  recipient: Reader;
  away: AwayChoice;
  leaving: Leaving;
}

/** What step 9 makes of it; `at` is NaN when it does not ring. */
export interface Decided extends Leaving {
  lateBell: boolean;
}

/**
 * Step 9. What was not carried, but had its ring instant at or past the use-by itself, is kept whatever the choice. Where somebody
 * stands in for the recipient nothing is late: whoever is there hears of it. Bringing forward looks at leave and reach only; where no
 * minute of reach lies before the ring instant, the ring is kept.
 */
export function decideLate(ring: LateRing, choice: LateChoice, trace: Trace = null): Decided {
  const { ringAt, from, useBy, leaving } = ring;
  if (isStoodInFor(ring.recipient, from, ring.away)) return { ...leaving, lateBell: false };
  if (leaving.at < useBy || ringAt >= useBy || choice === 'keep') return marked(leaving, useBy, trace);
  if (choice === 'skip') {
    trace?.push({ code: 'late-not-rung', params: { useBy: formatZoned(useBy, leaving.reader.zone) } });
    return { reader: leaving.reader, at: NaN, lateBell: false };
  }
  if (choice === 'ring-anyway') {
    const reader = ring.recipient;
    trace?.push({ code: 'late-rung-anyway', params: { at: formatZoned(from, reader.zone) } });
    return marked({ reader, at: from }, useBy, trace);
  }
  const at = lastMinuteBefore(ringAt, ring.recipient);
  if (Number.isNaN(at)) return marked(leaving, useBy, trace);
  trace?.push({
    code: 'brought-forward',
    params: { from: formatZoned(leaving.at, leaving.reader.zone), to: formatZoned(at, ring.recipient.zone) }
  });
  return marked({ reader: ring.recipient, at }, useBy, trace);
}

function marked({ reader, at }: Leaving, useBy: InstantMs, trace: Trace): Decided {
  const lateBell = at >= useBy;
  if (lateBell) trace?.push({ code: 'late-bell', params: { useBy: formatZoned(useBy, reader.zone) } });
  return { reader, at, lateBell };
}

/** The last minute before an instant at which a reader is in reach and not on leave; NaN when none lies within 370 days. */
export function lastMinuteBefore(instant: InstantMs, reader: Reader): InstantMs {
  const earliest = instant - LONGEST_HOLD_DAYS * MS_PER_DAY;
  let at = minuteBefore(instant);
  while (at >= earliest) {
    const reached = lastInReach(at, reader.reach);
    if (Number.isNaN(reached)) return NaN;
    const away = reader.leave.startOf(reached);
    if (Number.isNaN(away)) return reached >= earliest ? reached : NaN;
    at = minuteBefore(away);
  }
  return NaN;
}

/** The last whole minute strictly before an instant. */
function minuteBefore(instant: InstantMs): InstantMs {
  return Math.ceil(instant / MS_PER_MINUTE - 1) * MS_PER_MINUTE;
}
