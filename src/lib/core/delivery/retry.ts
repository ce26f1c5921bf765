import { MS_PER_MINUTE } from '../time/day.ts';

/** Waits between attempts at one delivery, in minutes of the machine clock; after the last the delivery has failed. */
export const RETRY_WAIT_MINUTES: readonly number[] = [0.1, 0.5, 2, 5, 15, 30, 60, 120, 240];

/** How much of a wait is drawn by chance, so that deliveries that failed together do not come back together. */
export const JITTER = 0.2;

/**
 * How long to wait before the next attempt, in ms; null when there is none.
 * @param attempts how many have been made
 * @param chance a number from 0 to 1, given by the caller
 */
export function retryWaitMs(attempts: number, chance: number): number | null {
  const minutes = RETRY_WAIT_MINUTES[attempts - 1];
  return minutes === undefined ? null : Math.round(minutes * MS_PER_MINUTE * (1 + JITTER * (2 * chance - 1)));
}

/** What the other side's answer means. */
export type AttemptOutcome =
  { kind: 'accepted' } | { kind: 'refused'; detail: string } | { kind: 'try-later'; detail: string };

/** Decides an attempt: a 5xx reply is a refusal for good (RFC 5321 §4.2.1), anything else is tried again. */
export function decideAttempt(replyCode: number | null, detail: string): AttemptOutcome {
  if (replyCode !== null && replyCode >= 500 && replyCode <= 599) return { kind: 'refused', detail };
  return { kind: 'try-later', detail };
}
