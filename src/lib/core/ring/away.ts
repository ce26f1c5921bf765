import { ceilToMinute } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import { firstInReach } from './hold.ts';
import type { AwayChoice, Reader } from './reader.ts';

/** At most so many stand-ins are asked for one notice. */
export const MOST_STAND_INS = 3;

/** Whom step 5 has handed a notice to so far: no stand-in is asked twice, and at most three are. */
export interface Handing {
  /** The person it was meant for. */
  intended: Reader;
  choice: AwayChoice;
  asked: Set<Reader>;
  standIns: number;
}

export function startHanding(intended: Reader, choice: AwayChoice): Handing {
  return { intended, choice, asked: new Set([intended]), standIns: 0 };
}

/**
 * Step 5: who is asked instead of a reader on leave; null when the notice waits. A stand-in who is away hands on to their
 * own, at most three in all; a circle, or nobody left, goes to the intended person's manager; an away manager: wait.
 */
export function substitute(reader: Reader, at: InstantMs, handing: Handing): Reader | null {
  const { intended, choice, asked } = handing;
  if (choice === 'wait') return null;
  if (choice === 'stand-in') {
    for (
      let next = reader.standInAt(at);
      next && !asked.has(next) && handing.standIns < MOST_STAND_INS;
      next = next.standInAt(at)
    ) {
      asked.add(next);
      handing.standIns++;
      if (!next.leave.covers(at)) return next;
    }
  }
  const { manager } = intended;
  if (!manager || asked.has(manager)) return null;
  asked.add(manager);
  return manager.leave.covers(at) ? null : manager;
}

/** Whether somebody else is asked at an instant, since the reader is on leave then and whoever stands in for them is not. */
export function isStoodInFor(reader: Reader, at: InstantMs, choice: AwayChoice): boolean {
  return reader.leave.covers(at) && substitute(reader, at, startHanding(reader, choice)) !== null;
}

/**
 * When a wait for leave ends: the first minute of the reader's reach at or after the end of the leave that covers an instant. Where
 * they can be told at any time it is the first of their working hours, since midnight is no time to come back. NaN when there is none.
 */
export function afterLeave({ leave, reach, base }: Reader, at: InstantMs): InstantMs {
  const ends = leave.endOf(at);
  if (reach.kind !== 'any') return ceilToMinute(firstInReach(ends, reach));
  return ceilToMinute(base ? firstInReach(ends, { kind: 'working', spans: base }) : ends);
}
