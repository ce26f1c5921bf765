import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { Answered } from '../../core/delivery/answer.ts';
import { readDeliveryStatus } from '../../core/delivery/dsn.ts';
import { answeredIn } from './answered-mail.ts';

/** Mail that came back: which message, to whom, and why. */
export interface Returned {
  messageId: string;
  address: string;
  reason: string;
}

/** A report is a few kilobytes and the message that it is about; more is none. */
const LARGEST_BYTES = 2 * 2 ** 20;
const LONGEST_REASON = 300;

/** The longest HTML that is read as text. */
const LONGEST_HTML = 200_000;

/** Where reports about mail that came back (RFC 3464), and answers to mail, are taken: over SMTP, on a port of its own. */
export class ReturnedMail {
  readonly #server: SMTPServer;
  #listening = false;

  /**
   * @param onReturned hears of each recipient that a report names as failed
   * @param onAnswered hears of what is no report
   */
  constructor(
    onReturned: (returned: Returned) => void,
    onAnswered: (answered: Answered) => void,
    onFault: (error: unknown) => void
  ) {
    this.#server = new SMTPServer({
      authOptional: true,
      disableReverseLookup: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: LARGEST_BYTES,
      onData(stream, _session, done) {
        read(stream)
          .then(async (bytes) => {
            if (bytes === null)
              return done(
                Object.assign(new Error('This message is too large to read.'), { responseCode: 552 })
              );
            const mail = await simpleParser(bytes, {
              keepDeliveryStatus: true,
              skipTextToHtml: true,
              maxHtmlLengthToParse: LONGEST_HTML
            });
            const returned = returnedIn(mail);
            const answered = returned.length === 0 ? answeredIn(mail) : null;
            for (const one of returned) onReturned(one);
            if (answered) onAnswered(answered);
            return done();
          })
          .catch((error: unknown) => {
            onFault(error);
            done(Object.assign(new Error('The report could not be taken.'), { responseCode: 451 }));
          });
      }
    });
    // A client that goes away in the middle is no reason to stop listening.
    this.#server.on('error', onFault);
  }

  /** @returns the port that it listens on */
  listen(port: number, host = '127.0.0.1'): Promise<number> {
    return new Promise((resolve, reject) => {
      this.#server.once('error', reject);
      this.#server.listen(port, host, () => {
        this.#listening = true;
        const address = this.#server.server.address();
        resolve(typeof address === 'object' && address ? address.port : port);
      });
    });
  }

  async close(): Promise<void> {
    if (!this.#listening) return;
    this.#listening = false;
    await new Promise<void>((resolve) => this.#server.close(resolve));
  }
}

/** What comes over a line, to its end; null where that is more than is read. What is too much is not kept. */
async function read(stream: NodeJS.ReadableStream): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of stream) {
    size += part.length;
    if (size <= LARGEST_BYTES) parts.push(part as Buffer);
  }
  return size > LARGEST_BYTES ? null : Buffer.concat(parts);
}

/** The recipients that a report names as failed; none where it is no report, or does not say about which message. */
export function returnedIn(mail: ParsedMail): Returned[] {
  const part = (type: string) =>
    mail.attachments.find(({ contentType }) => contentType === type)?.content.toString('utf8');
  const status = part('message/delivery-status');
  const about = part('message/rfc822') ?? part('text/rfc822-headers');
  const messageId = about && /^message-id:\s*(<[^>\r\n]+>)/im.exec(about)?.[1];
  if (!status || !messageId) return [];
  return readDeliveryStatus(status)
    .filter(({ action }) => action === 'failed')
    .map(({ address, status: code, diagnostic }) => ({
      messageId,
      address,
      reason: `returned: ${diagnostic || code || 'no reason given'}`.slice(0, LONGEST_REASON)
    }));
}
