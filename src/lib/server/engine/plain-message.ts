import { createHash } from 'node:crypto';
import { waysFor } from '../../core/channel/ways.ts';
import type { TellingKind } from '../../core/notice/kinds.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
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

/** What it is of, and of what: the same twice is the same message. */
interface About {
  of: string;
  key: readonly unknown[];
}

/** Who gets it, as what kind of message, and when. */
interface Addressed {
  reader: PersonFacts;
  kind: TellingKind;
  /** Workspace clock. */
  now: number;
}

/** Queues it for one reader, by the ways that they chose for its kind, inside the transaction under way. */
export function queuePlain(
  stores: Pick<Stores, 'outbox' | 'settings'>,
  to: Addressed,
  about: About,
  { subject, paragraphs, link, words }: PlainMessage
): void {
  const said = paragraphs.map((one) => `<p>${escapeHtml(one)}</p>`).join('');
  const leads = `<p><a href="${escapeHtml(link)}">${escapeHtml(words)}</a></p>`;
  const text = `${[...paragraphs, link].join('\n\n')}\n`;
  const html = `<!doctype html><html lang="en"><body>${said}${leads}</body></html>`;
  queueWritten(stores, to, about, { subject, text, link, html });
}

/** The same for what is written already. */
export function queueWritten(
  { outbox, settings }: Pick<Stores, 'outbox' | 'settings'>,
  { reader, kind, now }: Addressed,
  about: About,
  message: { subject: string; text: string; link: string; html: string }
): void {
  const key = createHash('sha256').update(about.key.join('\n')).digest('hex').slice(0, 32);
  const messageId = `<${about.of}-${key}@${settings.mailDomain()}>`;
  // A clock that was turned back, by a kill too, comes by the same moment again.
  if (outbox.has(messageId)) return;
  outbox.queue(
    {
      ...message,
      readerId: reader.id,
      messageId,
      leavesAt: now,
      kinds: [kind]
    },
    [],
    waysFor(reader, kind, null).map((way) => ({ readerId: reader.id, ...way }))
  );
}
