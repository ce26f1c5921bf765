import { simpleParser } from 'mailparser';
import { KeptMessages } from './kept.ts';

/** From and to whom a message goes, whatever stands in it. */
export interface Envelope {
  from: string;
  to: string[];
}

/** A message as it was received. */
export interface Stored {
  id: number;
  /** Machine clock, ms. */
  receivedAt: number;
  from: string;
  to: string[];
  subject: string;
  /** The Date header, ms. */
  date: number | null;
  messageId: string;
  text: string;
  html: string;
  headers: string;
  /** Files that came along, as text. Absent in what was kept before files were. */
  files?: { name: string; type: string; text: string }[];
}

/** What the stand-in has received, kept in a file of JSON lines where it has a folder. */
export class Mailbox {
  readonly #kept: KeptMessages<Stored>;

  /** @param dir where messages are kept between starts; absent: only in memory */
  constructor(dir: string | undefined) {
    this.#kept = new KeptMessages(dir, 'messages.jsonl');
  }

  /** Takes a message in: its bytes as they came, and the envelope. */
  async keep(raw: Buffer, envelope: Envelope): Promise<void> {
    const parsed = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
    const end = raw.indexOf('\r\n\r\n');
    const stored: Stored = {
      id: this.#kept.all.length + 1,
      receivedAt: Date.now(),
      ...envelope,
      subject: parsed.subject ?? '',
      date: parsed.date?.getTime() ?? null,
      messageId: parsed.messageId ?? '',
      text: parsed.text ?? '',
      html: parsed.html || '',
      files: parsed.attachments.map(({ filename, contentType, content }) => ({
        name: filename ?? 'unnamed',
        type: contentType,
        text: content.toString('utf8')
      })),
      headers: raw.subarray(0, end < 0 ? raw.length : end).toString('utf8')
    };
    this.#kept.add(stored);
  }

  byId(id: number): (Stored & { copies: number }) | null {
    return this.#kept.byId(id);
  }

  /** A page of what is sought, newest by Date first. @param reader one address; empty for all */
  list(
    search: string,
    reader: string,
    offset: number,
    limit: number
  ): { total: number; messages: unknown[] } {
    const found = this.#kept
      .sought(search, reader)
      .sort((a, b) => (b.date ?? 0) - (a.date ?? 0) || b.id - a.id);
    const messages = found.slice(offset, offset + limit).map((message) => {
      const { id, receivedAt, from, to, subject, date, messageId } = message;
      return { id, receivedAt, from, to, subject, date, messageId, copies: this.#kept.copiesOf(message) };
    });
    return { total: found.length, messages };
  }
}
