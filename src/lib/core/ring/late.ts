import type { Moment } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import { isDayLevel, type LeadTiming } from './lead.ts';

/**
 * Whether a ring can be a late bell: one before the anchor, or on its day unless it simply keeps the anchor's own time.
 */
export function canBeLate(lead: LeadTiming, anchor: Moment): boolean {
  if (lead.n < 0) return true;
  if (lead.n > 0 || !isDayLevel(lead.unit)) return false;
  return lead.minute !== null || anchor.minute === null;
}

/** Whether a notice that leaves at `leaving` is a late bell: it comes when what it announces is over. */
export function isLateBell(lead: LeadTiming, anchor: Moment, leaving: InstantMs, useBy: InstantMs): boolean {
  return canBeLate(lead, anchor) && leaving >= useBy;
}
