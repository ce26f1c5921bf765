import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { LINK_ACTS, LINK_LASTS_MS, type LinkAct } from '../../core/message/acts.ts';

/** What a link in a message was made for. */
export interface ActToken {
  noticeId: number;
  act: LinkAct;
  /** Workspace clock, ms. */
  expiresAt: number;
}

/** Bytes of the signature that stand in a link: 128 bits. */
const SIGNATURE_BYTES = 16;

/**
 * The token of a link: what it does, until when, and a signature over both (HMAC with SHA-256, RFC 2104, cut to 128 bits as RFC 2104 §5
 * allows).
 * @param leavesAt workspace clock: from then on it works for two weeks
 */
export function actToken(key: Buffer, noticeId: number, act: LinkAct, leavesAt: number): string {
  const expires = Math.floor((leavesAt + LINK_LASTS_MS) / 60_000);
  const words = `${noticeId.toString(36)}-${act}-${expires.toString(36)}`;
  return `${words}-${signature(key, words).toString('base64url')}`;
}

/** @returns null for what was not made with this key */
export function readActToken(key: Buffer, token: string): ActToken | null {
  const match = /^(([0-9a-z]{1,9})-([a-z]{2,8})-([0-9a-z]{1,9}))-([\w-]{22})$/.exec(token);
  if (!match) return null;
  const [, words, notice, act, expires, signed] = match;
  const known = LINK_ACTS.find((one) => one === act);
  const given = Buffer.from(signed!, 'base64url');
  const right = signature(key, words!);
  if (!known || given.length !== right.length || !timingSafeEqual(given, right)) return null;
  return {
    noticeId: Number.parseInt(notice!, 36),
    act: known,
    expiresAt: Number.parseInt(expires!, 36) * 60_000
  };
}

/** By what a used link is known: the token itself is not kept. */
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

function signature(key: Buffer, words: string): Buffer {
  return createHmac('sha256', key).update(words).digest().subarray(0, SIGNATURE_BYTES);
}
