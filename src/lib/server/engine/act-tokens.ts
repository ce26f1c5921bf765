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

/** 128 bits. */
const HALF_BYTES = 16;

/** What a row of a digest offers: one signature of 256 bits has a half for each. */
const DIGEST_ACTS = ['done', 'date'] as const;
export type DigestAct = (typeof DIGEST_ACTS)[number];

/**
 * The token of a link about a notice: what it does, until when, and a signature over both (HMAC with SHA-256, RFC 2104, cut to 128 bits as
 * RFC 2104 §5 allows).
 * @param leavesAt workspace clock: from then on it works for two weeks
 */
export function actToken(key: Buffer, noticeId: number, act: LinkAct, leavesAt: number): string {
  const words = `${noticeId.toString(36)}-${act}-${expiryOf(leavesAt)}`;
  return `${words}-${cut(signature(key, words), 0)}`;
}

/**
 * The tokens of the links in a row of a digest. A digest of many rows signs very many of them: each row is signed once, and each act has a
 * half of the signature, which tells nothing of the other half.
 * @param leavesAt as above
 */
export function digestTokens(
  key: Buffer,
  { digestRunId, taskId }: { digestRunId: number; taskId: number },
  leavesAt: number
): Record<DigestAct, string> {
  const [subject, expires] = [`${digestRunId.toString(36)}.${taskId.toString(36)}`, expiryOf(leavesAt)];
  const signed = signature(key, `${subject}-${expires}`);
  const token = (act: DigestAct) => `${subject}-${act}-${expires}-${cut(signed, halfOf(act))}`;
  return { done: token('done'), date: token('date') };
}

/** @returns null for what was not made with this key */
export function readActToken(key: Buffer, token: string): ActToken | null {
  const match = /^([0-9a-z]{1,9})(?:\.([0-9a-z]{1,9}))?-([a-z]{2,8})-([0-9a-z]{1,9})-([\w-]{22})$/.exec(
    token
  );
  if (!match) return null;
  const [, subject, task, name, expires, signed] = match;
  const act = LINK_ACTS.find((one) => one === name);
  if (!act) return null;
  const digestAct = DIGEST_ACTS.find((one) => one === act);
  if (task !== undefined && !digestAct) return null;
  const right =
    task === undefined
      ? cut(signature(key, `${subject}-${act}-${expires}`), 0)
      : cut(signature(key, `${subject}.${task}-${expires}`), halfOf(digestAct!));
  // As text: several texts decode to the same bytes, and each would be a link of its own that works once.
  if (!timingSafeEqual(Buffer.from(signed!), Buffer.from(right))) return null;
  return {
    of:
      task === undefined
        ? { noticeId: Number.parseInt(subject!, 36) }
        : { digestRunId: Number.parseInt(subject!, 36), taskId: Number.parseInt(task, 36) },
    act,
    expiresAt: Number.parseInt(expires!, 36) * 60_000
  };
}

/** By what a used link is known: the token itself is not kept. */
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

const expiryOf = (leavesAt: number): string => Math.floor((leavesAt + LINK_LASTS_MS) / 60_000).toString(36);

const halfOf = (act: DigestAct): 0 | 1 => (act === 'done' ? 0 : 1);

const signature = (key: Buffer, words: string): Buffer => createHmac('sha256', key).update(words).digest();

/** A half of a signature, as base64url (RFC 4648 §5). */
const cut = (signed: Buffer, half: 0 | 1): string =>
  signed.toString('base64url', half * HALF_BYTES, (half + 1) * HALF_BYTES);
