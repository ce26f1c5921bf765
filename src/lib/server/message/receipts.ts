import { createHash, timingSafeEqual } from 'node:crypto';
import type { Workspace } from '../workspace/workspace.ts';

/** Whether an address is the one that the gateway for text messages was given: nobody else knows it. */
export function isReceiptAddress({ stores }: Pick<Workspace, 'stores'>, key: string): boolean {
  return isSame(key, stores.secrets.made('receipts'));
}

/** Compared by their hashes, so that the time it takes says nothing of how much was right. */
function isSame(given: string, right: string): boolean {
  const hash = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(hash(given), hash(right));
}
