import type { Day } from '../time/day.ts';

/** What tells apart rings of one rule, step, task and recipient that end at the same instant. */
export interface Mergeable {
  /** The date before the closed-day rule. */
  originDay: Day;
  /** Which repeat of its lead. */
  ordinal: number;
  /** Place of the lead in its rule. */
  leadOrder: number;
}

/**
 * Step 7: which of the rings that end at the same instant is the one notice: that whose date before the closed-day
 * rule is the latest (−1 rather than −2, +3 rather than +1). Of equal dates the later repeat, then the later lead.
 * @returns a number above 0 when `a` is kept before `b`
 */
export function compareForMerge(a: Mergeable, b: Mergeable): number {
  return a.originDay - b.originDay || a.ordinal - b.ordinal || a.leadOrder - b.leadOrder;
}
