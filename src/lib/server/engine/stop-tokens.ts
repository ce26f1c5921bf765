import { timingSafeEqual } from 'node:crypto';
import { TELLING_KINDS, type TellingKind } from '../../core/notice/kinds.ts';
import { signed } from './act-tokens.ts';

/** Whose mail of which kinds a link stops. */
export interface MailStopSubject {
  /** Below zero for somebody outside. */
  readerId: number;
  kinds: TellingKind[];
}

/**
 * The token of the link by which somebody stops mail of the kinds that a message is of: who, which, and a signature over both (as those of links
 * that act). It works for ever: whoever finds an old message must be able to stop what still comes.
 */
export function stopToken(key: Buffer, { readerId, kinds }: MailStopSubject): string {
  const outside = readerId < 0 ? 'o' : 'm';
  const mask = kinds.reduce((bits, kind) => bits | (1 << TELLING_KINDS.indexOf(kind)), 0);
  const words = `${outside}${Math.abs(readerId).toString(36)}-stop-${mask.toString(36)}`;
  return `${words}-${signed(key, words)}`;
}

/** @returns null for what was not made with this key */
export function readStopToken(key: Buffer, token: string): MailStopSubject | null {
  const match = /^([om])([0-9a-z]{1,9})-stop-([0-9a-z]{1,6})-[\w-]{22}$/.exec(token);
  if (!match) return null;
  const mask = Number.parseInt(match[3]!, 36);
  const id = Number.parseInt(match[2]!, 36);
  const subject = {
    readerId: match[1] === 'o' ? -id : id,
    kinds: TELLING_KINDS.filter((_, i) => (mask & (1 << i)) !== 0)
  };
  const [a, b] = [Buffer.from(token), Buffer.from(stopToken(key, subject))];
  return a.length === b.length && timingSafeEqual(a, b) ? subject : null;
}
