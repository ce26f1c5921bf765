import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { TellingKind } from '../../core/notice/kinds.ts';
import { mailFaultWords, type MailStep } from '../../core/channel/mail-fault.ts';
import { decideAttempt } from '../../core/delivery/retry.ts';
import type { OutgoingReach } from './reach.ts';
import { AttemptFailed, type Channel, type OutgoingMessage } from './channel.ts';
import type { MailRoute } from './mail-route.ts';
import { LineFailed, SmtpLine } from './smtp-line.ts';

export interface MailSender {
  name: string;
  address: string;
}

/** Lines to one server that are kept for the next message; more are opened where more are under way. */
const KEPT_LINES = 8;

/**
 * Mail over SMTP (RFC 5321). Where the first route cannot be reached, or leaves before it has taken a message, the second is taken; one that has answered,
 * or may have the message, is not passed by.
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
  const kept = new Map<string, SmtpLine[]>();
  const free = (key: string): SmtpLine | null => {
    for (let line = kept.get(key)?.pop(); line; line = kept.get(key)?.pop()) if (line.open) return line;
    return null;
  };
  const keep = (key: string, line: SmtpLine) => {
    const lines = kept.get(key) ?? [];
    kept.set(key, lines);
    if (line.open && lines.length < KEPT_LINES) lines.push(line);
    else line.close();
  };
  const closeAll = () => {
    for (const lines of kept.values()) for (const line of lines) line.close();
    kept.clear();
  };
  const over = async (route: MailRoute, mail: Mail, signal: AbortSignal) => {
    const key = JSON.stringify(route);
    const old = free(key);
    if (old) {
      try {
        await old.send(mail.from, mail.to, mail.raw, signal);
        return keep(key, old);
      } catch (failure) {
        // A line that was kept may have been closed by the server meanwhile: then a new one is opened.
        if (isHeard(failure) || signal.aborted) throw failure;
      }
    }
    const line = await SmtpLine.open(route, route.isSet ? reach : null, signal);
    await line.send(mail.from, mail.to, mail.raw, signal);
    keep(key, line);
  };
  return {
    name: 'mail',
    async send(message, signal) {
      const { name, address } = sender();
      const { readerId, kinds } = message;
      const stop = kinds.length > 0 ? stopLink(readerId, kinds) : null;
      const raw = await mimeOf(message, { name, address }, stop);
      const ways = routes();
      for (const [i, route] of ways.entries()) {
        try {
          return await over(route, { from: address, to: message.address, raw }, signal);
        } catch (failure) {
          if (i < ways.length - 1 && !isHeard(failure) && !signal.aborted) continue;
          throw failureOf(failure, { route, from: address, to: message.address });
        }
      }
    },
    close: closeAll
  };
}

interface Mail {
  from: string;
  to: string;
  raw: Buffer;
}

const ABOUT_THE_MESSAGE: ReadonlySet<MailStep> = new Set(['sender', 'recipient', 'message']);

/** Whether a server has said something to the message, or may have it: then no other is asked. */
function isHeard(failure: unknown): boolean {
  if (!(failure instanceof LineFailed) || failure.handedOver) return true;
  return failure.reply !== null && ABOUT_THE_MESSAGE.has(failure.step);
}

/**
 * Whether a mail server would take a message now: connects, encrypts and signs in as for a message, and sends none.
 * @returns why not; null where it would
 */
export async function whyNoMail(
  routes: readonly MailRoute[],
  reach: OutgoingReach,
  signal: AbortSignal
): Promise<string | null> {
  let why: string | null = null;
  for (const route of routes) {
    try {
      const line = await SmtpLine.open(route, route.isSet ? reach : null, signal);
      line.close();
      return null;
    } catch (failure) {
      if (!(failure instanceof LineFailed)) throw failure;
      why ??= wordsOf(failure, route, '', '');
    }
  }
  return why;
}

function wordsOf(
  failure: LineFailed,
  { host, port, user = '' }: MailRoute,
  from: string,
  to: string
): string {
  return mailFaultWords(failure, { host, port, user, from, to });
}

/** What a person is told of a failure: what is wrong and what to do, with the server's words and never ours to it. */
function failureOf(failure: unknown, tried: { route: MailRoute; from: string; to: string }): unknown {
  if (!(failure instanceof LineFailed)) return failure;
  const { handedOver, reply } = failure;
  const { route, from, to } = tried;
  const detail = wordsOf(failure, route, from, to);
  // What fails before a message is spoken of, a password or an encrypted line too, is mended in the settings, not by giving the message up.
  if (!isHeard(failure)) return new AttemptFailed({ kind: 'try-later', detail, unreached: true });
  const outcome = decideAttempt(reply, detail);
  if (outcome.kind === 'accepted') return failure;
  // A line that breaks while the message is handed over leaves open whether it was taken (RFC 5321 §4.5.4.1).
  const unknown = outcome.kind === 'try-later' && reply === null && handedOver;
  return new AttemptFailed(unknown ? { ...outcome, unknown } : outcome);
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
  });
  return composer.compile().build();
}
