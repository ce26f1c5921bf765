import { connect, type Socket } from 'node:net';
import { Readable } from 'node:stream';
import SMTPConnection from 'nodemailer/lib/smtp-connection/index.js';
import type { MailStep } from '../../core/channel/mail-fault.ts';
import type { MailRoute } from './mail-route.ts';
import type { OutgoingReach } from './reach.ts';

const CONNECT_MS = 5_000;
const GREETING_MS = 5_000;
/** A line on which nothing is said for so long is closed, whether a message is on it or not. */
const SILENT_MS = 20_000;

/** A failure on a line, how far it had come, and whether the server may have taken the message all the same. */
export class LineFailed extends Error {
  readonly step: MailStep;
  /** The system's word for it; null where the server answered. */
  readonly code: string | null;
  /** The message was on its way: what came of it is not known unless the server said so. */
  readonly handedOver: boolean;
  /** What the server said (RFC 5321 §4.2); null where it said nothing. */
  readonly reply: number | null;
  /** Its words, else those of the system. */
  readonly said: string;

  constructor(cause: unknown, step: MailStep, handedOver: boolean) {
    super(cause instanceof Error ? cause.message : String(cause), { cause });
    const { responseCode, response } = cause as { responseCode?: number; response?: string };
    this.step = step;
    this.handedOver = handedOver;
    this.reply = responseCode ?? null;
    this.code = systemCode(cause);
    this.said = typeof response === 'string' ? response : this.message;
  }
}

/**
 * One line to a mail server (RFC 5321): opened once, one message after another over it, gone when it fails. Our own socket is under it, so that a
 * server which goes on answering a little for ever is left when the time is over.
 */
export class SmtpLine {
  readonly #connection: SMTPConnection;
  readonly #socket: Socket;
  #ended = false;

  private constructor(connection: SMTPConnection, socket: Socket) {
    this.#connection = connection;
    this.#socket = socket;
    const end = () => (this.#ended = true);
    connection.on('end', end);
    connection.on('error', end);
  }

  /**
   * Connects, encrypts as the route asks, and signs in.
   * @param reach where a server may be; null where whoever started the server chose it
   * @param signal when it is given up
   * @throws LineFailed with nothing handed over
   */
  static async open(route: MailRoute, reach: OutgoingReach | null, signal: AbortSignal): Promise<SmtpLine> {
    const { host, port, tls = 'none', user, password, ca } = route;
    let step: MailStep = 'connect';
    const failed = (cause: unknown) => new LineFailed(cause, step, false);
    let socket: Socket;
    try {
      signal.throwIfAborted();
      socket = reach ? reach.connect(host, port) : connect({ host, port });
    } catch (failure) {
      throw failed(failure);
    }
    try {
      await stands(socket, signal);
      const connection = new SMTPConnection({
        ...{ host, port, connection: socket, socketCloseTimeout: 0 },
        secure: tls === 'tls',
        // Asked for, it is not gone without: a line that anybody reads is not what was asked for.
        requireTLS: tls === 'starttls',
        ignoreTLS: tls === 'none',
        ...(ca ? { tls: { ca } } : {}),
        ...{
          connectionTimeout: CONNECT_MS + GREETING_MS,
          greetingTimeout: GREETING_MS,
          socketTimeout: SILENT_MS
        }
      });
      const line = new SmtpLine(connection, socket);
      await line
        .#unlessGivenUp(signal, (done) => connection.connect(done))
        .catch((failure: unknown) => {
          if (isAboutEncryption(failure)) step = 'encrypt';
          throw failure;
        });
      step = 'sign in';
      if (user && connection.allowsAuth)
        await line.#unlessGivenUp(signal, (done) =>
          connection.login({ credentials: { user, pass: password ?? '' } }, done)
        );
      return line;
    } catch (failure) {
      socket.destroy();
      throw failed(failure);
    }
  }

  /** Whether another message can go over it. */
  get open(): boolean {
    return !this.#ended && !this.#socket.destroyed;
  }

  /**
   * Hands one message over. A line on which that fails is closed.
   * @throws LineFailed
   */
  async send(from: string, to: string, raw: Buffer, signal: AbortSignal): Promise<void> {
    let handedOver = false;
    // It is read once the server has said that it takes a message (354), and not before.
    const body = new Readable({
      read() {
        handedOver = true;
        this.push(raw);
        this.push(null);
      }
    });
    try {
      await this.#unlessGivenUp(signal, (done) =>
        this.#connection.send({ from, to: [to], size: raw.length }, body, done)
      );
    } catch (failure) {
      this.close();
      throw new LineFailed(failure, stepOf(failure), handedOver);
    }
  }

  close(): void {
    this.#ended = true;
    this.#connection.close();
    this.#socket.destroy();
  }

  /** One step of the line. Whatever breaks it off meanwhile is its failure. */
  #unlessGivenUp(signal: AbortSignal, step: (done: (failure?: Error | null) => void) => void): Promise<void> {
    return new Promise((resolve, reject) => {
      const connection = this.#connection;
      const end = () => finish(new Error('the connection was closed'));
      const giveUp = () => {
        finish(new Error('no answer in time'));
        this.close();
      };
      const finish = (failure?: Error | null) => {
        connection.off('error', finish).off('end', end);
        signal.removeEventListener('abort', giveUp);
        if (failure) reject(failure);
        else resolve();
      };
      if (signal.aborted) return giveUp();
      signal.addEventListener('abort', giveUp, { once: true });
      connection.on('error', finish).on('end', end);
      step(finish);
    });
  }
}

/** Where a line was that failed while a message was sent: after which command (RFC 5321 §4.1.1). */
function stepOf(failure: unknown): MailStep {
  const { command } = failure as { command?: string };
  if (command === 'MAIL FROM') return 'sender';
  return command === 'RCPT TO' ? 'recipient' : 'message';
}

/** The system's word for a failure, which the protocol's library keeps beside its own. */
function systemCode(failure: unknown): string | null {
  const { originalCode, code } = failure as { originalCode?: string; code?: string };
  return originalCode ?? code ?? null;
}

/** Whether a line stood and could not be kept from being read: no such thing offered, or a certificate that is not trusted. */
function isAboutEncryption(failure: unknown): boolean {
  const { code, command } = failure as { code?: string; command?: string };
  return (
    code === 'ETLS' ||
    command === 'STARTTLS' ||
    /CERT|SELF_SIGNED|ALTNAME|SSL|TLS/.test(systemCode(failure) ?? '')
  );
}

/** Waits until a socket is connected. @throws what the system says, or that it took too long */
function stands(socket: Socket, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const late = () => socket.destroy(new Error('no connection in time'));
    const timer = setTimeout(late, CONNECT_MS);
    signal.addEventListener('abort', late, { once: true });
    socket.once('connect', resolve);
    socket.once('error', reject);
    const over = () => {
      clearTimeout(timer);
      signal.removeEventListener('abort', late);
    };
    socket.once('connect', over).once('close', over);
  });
}
