import { MS_PER_MINUTE } from '../time/day.ts';

/** Waits between attempts at one delivery, in minutes of the machine clock; after the last the delivery has failed. */
export const RETRY_WAIT_MINUTES: readonly number[] = [0.1, 0.5, 2, 5, 15, 30, 60, 120, 240];

/** How much of a wait is drawn by chance, so that deliveries that failed together do not come back together. */
export const JITTER = 0.2;

/** The longest wait that the other side can ask for: a day off the line is our longest wait, not theirs. */
const LONGEST_ASKED_MS = 240 * MS_PER_MINUTE;

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
  /** `kept`: it stays here, to be read in the Post room. */
  | { kind: 'accepted'; kept?: boolean }
  | { kind: 'refused'; detail: string }
  /**
   * `afterMs`: it asked not to be tried again before. `unknown`: it may have taken the message all the same, so that the next attempt may be a repeat.
   * `unreached`: no message was spoken of, so that no other would leave either.
   */
  | { kind: 'try-later'; detail: string; afterMs?: number; unknown?: boolean; unreached?: boolean };

/** Decides an attempt: a 5xx reply is a refusal for good (RFC 5321 §4.2.1), anything else is tried again. */
export function decideAttempt(replyCode: number | null, detail: string): AttemptOutcome {
  if (replyCode !== null && replyCode >= 500 && replyCode <= 599) return { kind: 'refused', detail };
  return { kind: 'try-later', detail };
}

/**
 * Answers in the 400s that are for now, not for good (RFC 9110 §15.5.9, RFC 8470 §5.2, RFC 6585 §4). A token that is not known (RFC 9110 §15.5.2) is
 * mended in the settings: no message is given up for it.
 */
const FOR_NOW = new Set([401, 408, 425, 429]);

/**
 * Decides an attempt over HTTP: what the other side does not want (RFC 9110 §15.5) is refused for good, but for the answers that say "not now";
 * everything else that is no success is tried again.
 * @param retryAfter the header of that name (RFC 9110 §10.2.3), in seconds; a date is left to our own waits
 */
export function decideHttpAttempt(
  status: number,
  detail: string,
  retryAfter: string | null = null
): AttemptOutcome {
  if (status >= 200 && status <= 299) return { kind: 'accepted' };
  if (status >= 400 && status <= 499 && !FOR_NOW.has(status)) return { kind: 'refused', detail };
  const seconds = retryAfter !== null && /^\d{1,6}$/.test(retryAfter.trim()) ? Number(retryAfter) : null;
  if (seconds === null) return { kind: 'try-later', detail };
  return { kind: 'try-later', detail, afterMs: Math.min(seconds * 1000, LONGEST_ASKED_MS) };
}
