import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';

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
  readonly #file: string | null;
  readonly #messages: Stored[];

  /** @param dir where messages are kept between starts; absent: only in memory */
  constructor(dir: string | undefined) {
    if (dir) mkdirSync(dir, { recursive: true });
    this.#file = dir ? join(dir, 'messages.jsonl') : null;
    this.#messages = this.#file && existsSync(this.#file) ? readLines(this.#file) : [];
  }

  /** Takes a message in: its bytes as they came, and the envelope. */
  async keep(raw: Buffer, envelope: { from: string; to: string[] }): Promise<void> {
    const parsed = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
    const end = raw.indexOf('\r\n\r\n');
    const stored: Stored = {
      id: this.#messages.length + 1,
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
    this.#messages.push(stored);
    if (this.#file) appendFileSync(this.#file, `${JSON.stringify(stored)}\n`);
  }

  /** One message with how often its Message-ID has come; null when there is none of that number. */
  byId(id: number): (Stored & { copies: number }) | null {
    const found = this.#messages[id - 1];
    return found ? { ...found, copies: this.#copiesOf(found) } : null;
  }

  /** A page of the messages whose subject, readers or words contain `search`, newest by Date first. */
  list(search: string, offset: number, limit: number): { total: number; messages: unknown[] } {
    const wanted = search.toLowerCase();
    const found = this.#messages
      .filter(({ subject, to, text }) =>
        `${subject}\n${to.join(' ')}\n${text}`.toLowerCase().includes(wanted)
      )
      .sort((a, b) => (b.date ?? 0) - (a.date ?? 0) || b.id - a.id);
    const messages = found.slice(offset, offset + limit).map((message) => {
      const { id, receivedAt, from, to, subject, date, messageId } = message;
      return { id, receivedAt, from, to, subject, date, messageId, copies: this.#copiesOf(message) };
    });
    return { total: found.length, messages };
  }

  #copiesOf(message: Stored): number {
    return this.#messages.filter(({ messageId }) => messageId === message.messageId).length;
  }
}

function readLines(file: string): Stored[] {
  return readFileSync(file, 'utf8')
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line) as Stored);
}
