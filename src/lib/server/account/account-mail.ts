import { randomBytes } from 'node:crypto';
import { escapeHtml } from '../../core/message/escape.ts';
import type { Stores } from '../store/all.ts';

/** A mail about how somebody comes in. */
export interface AccountMail {
  readerId: number;
  /** As it is to be sent to: it may be one that is theirs no longer. */
  address: string;
  /** Workspace clock. */
  at: number;
  subject: string;
  paragraphs: readonly string[];
  /** Where it leads, with what that is called; null where it leads nowhere. What leads somewhere lets its reader in, and is not kept. */
  link: { address: string; words: string } | null;
}

/** Queues it, inside the transaction under way. Each is a message of its own, however alike two are. */
export function queueAccountMail(
  { outbox, settings }: Pick<Stores, 'outbox' | 'settings'>,
  { readerId, address, at, subject, paragraphs, link }: AccountMail
): void {
  const said = paragraphs.map((text) => `<p>${escapeHtml(text)}</p>`).join('');
  const anchor = link ? `<p><a href="${escapeHtml(link.address)}">${escapeHtml(link.words)}</a></p>` : '';
  outbox.queue(
    {
      readerId,
      messageId: `<account-${randomBytes(12).toString('hex')}@${settings.mailDomain()}>`,
      leavesAt: at,
      subject,
      text: `${[...paragraphs, ...(link ? [link.address] : [])].join('\n\n')}\n`,
      html: `<!doctype html><html lang="en"><body>${said}${anchor}</body></html>`,
      secret: link !== null
    },
    [],
    [{ readerId, channel: 'mail', address: address.trim() }]
  );
}
