import { createCipheriv, createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { LINK_ACTS, LINK_LASTS_MS, type LinkAct } from '../../core/message/acts.ts';

/** Stands where a token would stand, in a copy that somebody reads to see what the message will be: its links do nothing. */
export const TOKEN_OF_A_COPY = 'a-copy';

/** What a link is about: a notice, or a task in a digest. */
export type ActSubject = { noticeId: number } | { digestRunId: number; taskId: number };

/** What a link in a message was made for. */
export interface ActToken {
  of: ActSubject;
  act: LinkAct;
  /** Workspace clock, ms. */
  expiresAt: number;
}

/** 128 bits: half of a SHA-256, and a block of AES. */
const SIGNATURE_BYTES = 16;

/** What a row of a digest offers. */
const DIGEST_ACTS = ['done', 'date'] as const;
export type DigestAct = (typeof DIGEST_ACTS)[number];

/**
 * The token of a link about a notice: what it does, until when, and a signature over both (HMAC with SHA-256, RFC 2104, cut to 128 bits as
 * RFC 2104 §5 allows).
 * @param leavesAt workspace clock: from then on it works for two weeks
 */
export function actToken(key: Buffer, noticeId: number, act: LinkAct, leavesAt: number): string {
  const words = `${noticeId.toString(36)}-${act}-${expiryOf(leavesAt)}`;
  return `${words}-${signed(key, words)}`;
}

/**
 * The tokens of the links in the rows of a digest. A digest of many rows signs very many of them, so it has a key of its own (HMAC, as above),
 * and each link is signed by one block of AES-256 under it: the CBC-MAC (ISO/IEC 9797-1, algorithm 1) of a message of one block, which is
 * safe where all messages are of one length, as they are here.
 * @param leavesAt as above
 * @returns the tokens of the row of a task
 */
export function digestTokens(
  key: Buffer,
  digestRunId: number,
  leavesAt: number
): (taskId: number) => Record<DigestAct, string> {
  const [run, expires] = [digestRunId.toString(36), expiryOf(leavesAt)];
  const sign = blockSigner(key, run, expires);
  return (taskId) => {
    const signed = sign(taskId);
    const subject = `${run}.${taskId.toString(36)}`;
    const token = (act: DigestAct) => `${subject}-${act}-${expires}-${cut(signed, DIGEST_ACTS.indexOf(act))}`;
    return { done: token('done'), date: token('date') };
  };
}

/** @returns what signs the acts of a task, one block after the other, in the order of `DIGEST_ACTS` */
function blockSigner(key: Buffer, run: string, expires: string): (taskId: number) => Buffer {
  // No token of a notice has a dot: none is signed with the words that this key comes of.
  const ownKey = signature(key, `${run}.-${expires}`);
  const cipher = createCipheriv('aes-256-ecb', ownKey, null).setAutoPadding(false);
  const blocks = Buffer.alloc(DIGEST_ACTS.length * SIGNATURE_BYTES);
  DIGEST_ACTS.forEach((_, i) => blocks.writeUInt8(i, i * SIGNATURE_BYTES));
  return (taskId) => {
    DIGEST_ACTS.forEach((_, i) => blocks.writeBigUInt64BE(BigInt(taskId), i * SIGNATURE_BYTES + 8));
    return cipher.update(blocks);
  };
}

/** @returns null for what was not made with this key */
export function readActToken(key: Buffer, token: string): ActToken | null {
  const match = /^([0-9a-z]{1,9})(?:\.([0-9a-z]{1,9}))?-([a-z]{2,8})-([0-9a-z]{1,9})-[\w-]{22}$/.exec(token);
  if (!match) return null;
  const [, subject, task, name, expires] = match;
  const act = LINK_ACTS.find((one) => one === name);
  if (!act) return null;
  const number = (digits: string) => Number.parseInt(digits, 36);
  const expiresAt = number(expires!) * 60_000;
  const leavesAt = expiresAt - LINK_LASTS_MS;
  let right: string;
  let of: ActSubject;
  if (task === undefined) {
    of = { noticeId: number(subject!) };
    right = actToken(key, of.noticeId, act, leavesAt);
  } else {
    const digestAct = DIGEST_ACTS.find((one) => one === act);
    if (!digestAct) return null;
    of = { digestRunId: number(subject!), taskId: number(task) };
    right = digestTokens(key, of.digestRunId, leavesAt)(of.taskId)[digestAct];
  }
  // As text, and whole: several texts decode to the same bytes or numbers, and each would be a link of its own that works once.
  const [a, b] = [Buffer.from(token), Buffer.from(right)];
  return a.length === b.length && timingSafeEqual(a, b) ? { of, act, expiresAt } : null;
}

/** By what a used link is known: the token itself is not kept. */
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

const expiryOf = (leavesAt: number): string => Math.floor((leavesAt + LINK_LASTS_MS) / 60_000).toString(36);

/** A signature over words, as it stands at the end of a token. */
export const signed = (key: Buffer, words: string): string => cut(signature(key, words), 0);

const signature = (key: Buffer, words: string): Buffer => createHmac('sha256', key).update(words).digest();

/** One of the signatures that stand one after the other, as base64url (RFC 4648 §5). */
const cut = (signed: Buffer, nth: number): string =>
  signed.toString('base64url', nth * SIGNATURE_BYTES, (nth + 1) * SIGNATURE_BYTES);
