import type { InstantMs } from '../time/zone.ts';

/** Why the clock of a ladder stands still. */
export type PauseReason = 'waits for others' | 'finished' | 'acknowledged' | 'hushed' | 'away';

/** A stretch in which the clock of a ladder stands still, `[from, until)`. */
export interface LadderPause {
  from: InstantMs;
  /** Infinity while its end is not known. */
  until: InstantMs;
  why: PauseReason;
}

/** What somebody said of late work, as long as nothing ended it. Instants in ms. */
export interface Acknowledgement {
  at: InstantMs;
  /** Until when nobody asks again. */
  until: InstantMs;
  personId: number;
  /** Whether it names a date. */
  promised: boolean;
}

/**
 * Pauses by acknowledgements, each until its own end or the next one, and the ends at which nothing had come instead.
 * @param said ascending by `at`
 */
export function acknowledgedPauses(said: readonly Acknowledgement[]): {
  pauses: LadderPause[];
  wakes: InstantMs[];
} {
  const pauses: LadderPause[] = [];
  const wakes: InstantMs[] = [];
  said.forEach(({ at, until }, i) => {
    const next = said[i + 1]?.at ?? Infinity;
    if (next > until) wakes.push(until);
    const end = Math.min(until, next);
    if (end > at) pauses.push({ from: at, until: end, why: 'acknowledged' });
  });
  return { pauses, wakes };
}

/** Pauses put in order, those that overlap or touch joined; of such the one that ends last says why. */
export function joined(pauses: readonly LadderPause[]): LadderPause[] {
  const all = pauses.filter(({ from, until }) => until > from).sort((a, b) => a.from - b.from);
  const out: LadderPause[] = [];
  for (const pause of all) {
    const last = out.at(-1);
    if (!last || pause.from > last.until) out.push({ ...pause });
    else if (pause.until > last.until) Object.assign(last, { until: pause.until, why: pause.why });
  }
  return out;
}
