import { createHash } from 'node:crypto';
import { waysFor, type TellingKind } from '../../core/delivery/channels.ts';
import type { PersonFacts } from '../../core/forecast/facts.ts';
import { escapeHtml } from '../../core/message/escape.ts';
import type { Stores } from '../store/all.ts';

/** A message that no rule wrote: a few paragraphs, and where they lead. */
export interface PlainMessage {
  subject: string;
  paragraphs: readonly string[];
  link: string;
  /** What the link is called. */
  words: string;
}

/**
 * Queues it for one reader, by the ways that they chose for its kind, inside the transaction under way.
 * @param about what it is of, and of what: the same twice is the same message
 * @param now workspace clock
 */
export function queuePlain(
  { outbox, settings }: Pick<Stores, 'outbox' | 'settings'>,
  reader: PersonFacts,
  kind: TellingKind,
  about: { of: string; key: readonly unknown[] },
  { subject, paragraphs, link, words }: PlainMessage,
  now: number
): void {
  const key = createHash('sha256').update(about.key.join('\n')).digest('hex').slice(0, 32);
  const said = paragraphs.map((one) => `<p>${escapeHtml(one)}</p>`).join('');
  const leads = `<p><a href="${escapeHtml(link)}">${escapeHtml(words)}</a></p>`;
  outbox.queue(
    {
      readerId: reader.id,
      messageId: `<${about.of}-${key}@${settings.mailDomain()}>`,
      leavesAt: now,
      subject,
      text: `${[...paragraphs, link].join('\n\n')}\n`,
      link,
      html: `<!doctype html><html lang="en"><body>${said}${leads}</body></html>`
    },
    [],
    waysFor(reader, kind, null).map((way) => ({ readerId: reader.id, ...way }))
  );
}
