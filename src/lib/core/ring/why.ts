/**
 * The steps that led to a result, coded so that screens can draw them and tests can read them. Dates are written
 * `YYYY-MM-DD`, moments as RFC 9557 with their zone; `whyText` turns a step into a sentence.
 */
export interface WhyStep {
  code: WhyCode;
  params: Record<string, string | number>;
}

export type WhyCode =
  | 'anchor-date'
  | 'anchor-date-time'
  | 'anchor-read-elsewhere'
  | 'due-moment'
  | 'due-zone'
  | 'start-moment'
  | 'offset'
  | 'closed-day-moved'
  | 'closed-day-kept'
  | 'closed-day-skipped'
  | 'wall-time'
  | 'own-time'
  | 'notice-time'
  | 'clock-gap'
  | 'clock-overlap'
  | 'repeat'
  | 'away-stand-in'
  | 'away-manager'
  | 'away-waits'
  | 'held'
  | 'held-quiet'
  | 'never-reachable'
  | 'same-moment'
  | 'late-bell'
  | 'late-not-rung'
  | 'late-rung-anyway'
  | 'brought-forward'
  | 'no-address'
  | 'deactivated'
  | 'capped'
  | 'caught-up'
  | 'at-once'
  | 'once-for'
  | 'schedule-moved'
  | 'schedule-passed'
  | 'hushed'
  | 'quiet-said'
  | 'snoozed'
  | 'quiet-stuck'
  | 'already-told'
  | 'enough'
  | 'folded'
  | 'after-owner'
  | 'own-silence'
  | 'faulty'
  | 'ladder-start'
  | 'ladder-pause'
  | 'ladder-rung'
  | 'ladder-in-order'
  | 'ladder-woken'
  | 'ladder-caught-up'
  | 'ladder-waits'
  | 'ladder-still';

/** Where steps are collected; null in the hot path, where nobody asks why. */
export type Trace = WhyStep[] | null;
