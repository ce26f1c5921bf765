import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { LINK_ACTS, LINK_LASTS_MS, type LinkAct } from '../../core/message/acts.ts';

/** What a link is about: a notice, or a task in a digest. */
export type ActSubject = { noticeId: number } | { digestRunId: number; taskId: number };

/** What a link in a message was made for. */
export interface ActToken {
  of: ActSubject;
  act: LinkAct;
  /** Workspace clock, ms. */
  expiresAt: number;
}

/** Letters of the signature that stand in a link: 128 bits, of which the last letter carries two. */
const SIGNATURE_LETTERS = 22;
const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';

/**
 * The token of a link: what it does, until when, and a signature over both (HMAC with SHA-256, RFC 2104, cut to 128 bits as RFC 2104 §5
 * allows).
 * @param leavesAt workspace clock: from then on it works for two weeks
 */
export function actToken(key: Buffer, of: ActSubject, act: LinkAct, leavesAt: number): string {
  const expires = Math.floor((leavesAt + LINK_LASTS_MS) / 60_000);
  const subject =
    'noticeId' in of ? of.noticeId.toString(36) : `${of.digestRunId.toString(36)}.${of.taskId.toString(36)}`;
  const words = `${subject}-${act}-${expires.toString(36)}`;
  return `${words}-${signature(key, words)}`;
}

/** @returns null for what was not made with this key */
export function readActToken(key: Buffer, token: string): ActToken | null {
  const match = /^(([0-9a-z]{1,9})(?:\.([0-9a-z]{1,9}))?-([a-z]{2,8})-([0-9a-z]{1,9}))-([\w-]{22})$/.exec(
    token
  );
  if (!match) return null;
  const [, words, subject, task, act, expires, signed] = match;
  const known = LINK_ACTS.find((one) => one === act);
  // As text: several texts decode to the same bytes, and each would be a link of its own that works once.
  const given = Buffer.from(signed!);
  const right = Buffer.from(signature(key, words!));
  if (!known || given.length !== right.length || !timingSafeEqual(given, right)) return null;
  return {
    of:
      task === undefined
        ? { noticeId: Number.parseInt(subject!, 36) }
        : { digestRunId: Number.parseInt(subject!, 36), taskId: Number.parseInt(task, 36) },
    act: known,
    expiresAt: Number.parseInt(expires!, 36) * 60_000
  };
}

/** By what a used link is known: the token itself is not kept. */
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

/** As base64url (RFC 4648 §5). A digest signs a hundred thousand links at once, so it is cut as text rather than as bytes. */
function signature(key: Buffer, words: string): string {
  const whole = createHmac('sha256', key).update(words).digest('base64url');
  const last = ALPHABET.indexOf(whole[SIGNATURE_LETTERS - 1]!) & 0b110000;
  return whole.slice(0, SIGNATURE_LETTERS - 1) + ALPHABET[last];
}
