import { timingSafeEqual } from 'node:crypto';
import { signed } from './act-tokens.ts';

/** 66 bits: what a text message has room for, and nobody guesses over a network. */
const SIGNATURE_LETTERS = 11;

/** The token of the short link in a text message: which delivery it was, and a signature over that. */
export function textToken(key: Buffer, deliveryId: number): string {
  const id = deliveryId.toString(36);
  return `${id}-${signed(key, `text ${id}`).slice(0, SIGNATURE_LETTERS)}`;
}

/** @returns the delivery; null for what was not made with this key */
export function readTextToken(key: Buffer, token: string): number | null {
  const match = /^([0-9a-z]{1,9})-[\w-]{11}$/.exec(token);
  if (!match) return null;
  const deliveryId = Number.parseInt(match[1]!, 36);
  const [a, b] = [Buffer.from(token), Buffer.from(textToken(key, deliveryId))];
  return a.length === b.length && timingSafeEqual(a, b) ? deliveryId : null;
}
