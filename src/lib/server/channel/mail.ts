import { createTransport, type Transporter } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { TellingKind } from '../../core/delivery/channels.ts';
import { decideAttempt } from '../../core/delivery/retry.ts';
import type { Socket } from 'node:net';
import { CodedError } from '../../core/errors.ts';
import type { OutgoingReach } from './reach.ts';
import { AttemptFailed, type Channel, type OutgoingMessage } from './channel.ts';
import type { MailRoute } from './mail-route.ts';

export interface MailSender {
  name: string;
  address: string;
}

/**
 * Mail over SMTP (RFC 5321). Where the first route cannot be reached the second is taken; one that has answered, or has heard of the message, is
 * not passed by.
 * @param routes and `sender` are asked at each message, since the settings may change
 * @param reach where a server may be, if it was set
 * @param stopLink where a reader stops mail of some kinds
 */
export function mailChannel(
  routes: () => readonly MailRoute[],
  sender: () => MailSender,
  stopLink: (readerId: number, kinds: readonly TellingKind[]) => string,
  reach: OutgoingReach
): Channel {
  const lines = new Map<string, Transporter>();
  const lineOf = (route: MailRoute): Transporter => {
    const key = JSON.stringify(route);
    let line = lines.get(key);
    if (!line) lines.set(key, (line = openLine(route, route.isSet ? reach : null)));
    return line;
  };
  return {
    name: 'mail',
    async send(message) {
      const { name, address } = sender();
      const { readerId, kinds } = message;
      const stop = kinds.length > 0 ? stopLink(readerId, kinds) : null;
      const raw = await mimeOf(message, { name, address }, stop);
      const envelope = { from: address, to: [message.address] };
      const ways = routes();
      for (const [i, route] of ways.entries()) {
        try {
          await lineOf(route).sendMail({ envelope, raw });
          return;
        } catch (error) {
          if (i < ways.length - 1 && isUnheard(error)) continue;
          throw failureOf(error);
        }
      }
    },
    close() {
      for (const line of lines.values()) line.close();
      lines.clear();
    }
  };
}

const CONNECT_MS = 5_000;

function openLine(
  { host, port, tls = 'none', user, password, ca }: MailRoute,
  reach: OutgoingReach | null
): Transporter {
  return createTransport({
    host,
    port,
    pool: true,
    maxConnections: 8,
    // A line that closes in the middle is tried again by the outbox alone, which writes down that the message may have arrived.
    maxRequeues: 0,
    secure: tls === 'tls',
    // Asked for, it is not gone without: a line that anybody reads is not what was asked for.
    requireTLS: tls === 'starttls',
    ignoreTLS: tls === 'none',
    ...(ca ? { tls: { ca } } : {}),
    ...(user ? { auth: { user, pass: password ?? '' } } : {}),
    ...(reach ? { getSocket: socketWithin(reach) } : {}),
    connectionTimeout: CONNECT_MS,
    greetingTimeout: 5_000,
    socketTimeout: 20_000
  });
}

/** Connects to a mail server where it may be; the library speaks over what stands. */
function socketWithin(reach: OutgoingReach) {
  return (
    { host, port }: { host?: string; port?: number },
    done: (failure: Error | null, socket?: { connection: Socket }) => void
  ): void => {
    let socket: Socket;
    try {
      socket = reach.connect(host!, port!);
    } catch (failure) {
      return done(failure as Error);
    }
    const failed = (failure: Error) => done(failure);
    socket.setTimeout(CONNECT_MS, () =>
      socket.destroy(Object.assign(new Error('no connection'), { code: 'ETIMEDOUT', syscall: 'connect' }))
    );
    socket.once('error', failed);
    socket.once('connect', () => {
      socket.off('error', failed);
      socket.setTimeout(0);
      done(null, { connection: socket });
    });
  };
}

interface LineError {
  responseCode?: number;
  code?: string;
  command?: string;
  syscall?: string;
  timeoutType?: string;
  message: string;
}

/** Commands that come before a message is spoken of (RFC 5321 §4.1.4, RFC 3207, RFC 4954). */
const BEFORE = /^(EHLO|HELO|STARTTLS|AUTH)/;
/** Failures of the library before a line stands: the name, the encryption, the password. */
const NO_LINE = new Set(['EDNS', 'ETLS', 'EAUTH']);

/**
 * Whether a server has not heard of the message at all, so that another may be asked, or the same one later, without its leaving twice. A line
 * that has stood and breaks is not among them: the library calls that a failure to connect as well.
 */
function isUnheard(error: unknown): boolean {
  const { code = '', command = '', syscall, timeoutType, message } = error as LineError;
  if (error instanceof CodedError || BEFORE.test(command) || NO_LINE.has(code) || syscall === 'connect')
    return true;
  if (message.startsWith('Invalid greeting')) return true;
  return timeoutType !== undefined && timeoutType !== 'SOCKET_TIMEOUT';
}

/** What a person is told of a failure: the server's words, never ours to it. */
function failureOf(error: unknown): unknown {
  const { responseCode, message } = error as LineError;
  // A password or an encrypted line that is refused is mended in the settings, not by giving the message up.
  if (isUnheard(error)) return new AttemptFailed({ kind: 'try-later', detail: message });
  const outcome = decideAttempt(responseCode ?? null, message);
  if (outcome.kind === 'accepted') return error;
  // A line that breaks while the message is handed over leaves open whether it was taken (RFC 5321 §4.5.4.1).
  if (outcome.kind === 'try-later' && responseCode === undefined)
    return new AttemptFailed({ ...outcome, unknown: true });
  return new AttemptFailed(outcome);
}

/**
 * The bytes of a message (RFC 5322, MIME multipart/alternative, in a multipart/mixed where files go along). The same message gives the same
 * bytes at every attempt.
 * @param stop where its reader stops mail like it; null where they cannot
 */
export async function mimeOf(
  message: OutgoingMessage,
  from: MailSender,
  stop: string | null = null
): Promise<Buffer> {
  const boundary = message.messageId.replace(/[^0-9a-z]/gi, '').slice(0, 24);
  const composer = new MailComposer({
    from,
    to: message.to.map(({ name, address }) => ({ name, address })),
    subject: message.subject,
    date: new Date(message.leavesAt),
    messageId: message.messageId,
    text: message.text,
    html: message.html,
    // Notices are sent by a program: well-behaved responders do not answer them (RFC 3834 §5).
    headers: {
      'Auto-Submitted': 'auto-generated',
      // RFC 2156 §5.3.4; one that is not marked says nothing.
      ...(message.importance === 'high' ? { Importance: 'high' } : {}),
      // RFC 2369 §3.2, and by one press RFC 8058 §3.1. Written out: a library that folds it inside the brackets breaks the link.
      ...(stop === null
        ? {}
        : {
            'List-Unsubscribe': { prepared: true, foldLines: false, value: `<${stop}>` },
            'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click'
          })
    },
    attachments: message.attachments.map(({ name, type, text }) => ({
      filename: name,
      contentType: type,
      content: text
    })),
    baseBoundary: boundary
  } as ConstructorParameters<typeof MailComposer>[0]);
  return composer.compile().build();
}
