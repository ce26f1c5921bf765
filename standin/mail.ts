import { createServer, type Server } from 'node:http';
import type { Socket } from 'node:net';
import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import { answerList } from './list.ts';
import { Mailbox, type Envelope } from './mailbox.ts';
import { sendReport } from './report.ts';

/** What the stand-in can be told to do wrong. */
const FAULTS = ['none', 'refuse', 'sender', 'try-later', 'slow', 'drop', 'bounce'] as const;
type Fault = (typeof FAULTS)[number];

/** The SMTP answers of the faults (RFC 5321 §4.2): 5xx for good, 4xx for now. */
const ANSWERS: Partial<Record<Fault, { responseCode: number; text: string }>> = {
  refuse: { responseCode: 550, text: 'The stand-in refuses mail for now.' },
  'try-later': { responseCode: 451, text: 'The stand-in asks to try later.' }
};

/** How long a slow one takes before it answers. */
const SLOW_MS = 20_000;
/** Nobody lives at addresses that begin so. */
const NOBODY = 'nobody-';

export interface MailStandInOptions {
  /** 0 lets the machine choose. */
  smtpPort: number;
  httpPort: number;
  /** Where received messages are kept between starts; absent: only in memory. */
  dir?: string;
  /** Where reports about mail that bounced go; absent: nowhere. */
  returnPort?: number;
  /** What it is known by on a line that is kept from being read, and whom it lets in; absent: no such line, and everybody. */
  secured?: { key: string; cert: string; user: string; password: string };
}

export interface MailStandIn {
  smtpPort: number;
  httpPort: number;
  /** From now on reports about mail that bounced go to this port. */
  reportTo(port: number): void;
  close(): Promise<void>;
}

/** The switch that the list can turn and the mail side obeys. */
interface Switch {
  fault: Fault;
  returnPort: number | null;
}

/**
 * The mail stand-in: a small server that takes every message over SMTP, keeps it exactly as received, and lists what it
 * has over HTTP. It listens on this machine only.
 */
export async function startMailStandIn({
  smtpPort,
  httpPort,
  dir,
  returnPort,
  secured
}: MailStandInOptions): Promise<MailStandIn> {
  const mailbox = new Mailbox(dir);
  const state: Switch = { fault: 'none', returnPort: returnPort ?? null };
  const smtp = smtpSide(mailbox, state, secured);
  const http = listSide(mailbox, state);
  await new Promise<void>((resolve, reject) => {
    smtp.once('error', reject);
    smtp.listen(smtpPort, '127.0.0.1', resolve);
  });
  // A client that goes away in the middle is no reason to stop listening.
  smtp.on('error', () => {});
  await new Promise<void>((resolve, reject) => {
    http.once('error', reject);
    http.listen(httpPort, '127.0.0.1', resolve);
  });
  return {
    smtpPort: portOf(smtp.server.address()),
    httpPort: portOf(http.address()),
    reportTo: (port) => (state.returnPort = port),
    async close() {
      http.closeAllConnections();
      await Promise.all([
        new Promise((done) => smtp.close(() => done(null))),
        new Promise((done) => http.close(done))
      ]);
    }
  };
}

function smtpSide(mailbox: Mailbox, state: Switch, secured: MailStandInOptions['secured']): SMTPServer {
  const server: SMTPServer = new SMTPServer({
    ...(secured
      ? {
          key: secured.key,
          cert: secured.cert,
          onAuth({ username, password }, _session, done) {
            const right = username === secured.user && password === secured.password;
            done(right ? null : new Error('The stand-in does not know that name and password.'), {
              user: username
            });
          }
        }
      : { authOptional: true, disabledCommands: ['AUTH', 'STARTTLS'] }),
    // It works without a network, so nobody is asked for the name of a client.
    disableReverseLookup: true,
    onMailFrom({ address }, _session, done) {
      if (state.fault !== 'sender') return done();
      const words = `The stand-in does not send for ${address}.`;
      done(Object.assign(new Error(words), { responseCode: 550 }));
    },
    onRcptTo({ address }, _session, done) {
      const answer = address.startsWith(NOBODY)
        ? { responseCode: 550, text: '5.1.1 Nobody of that name lives here.' }
        : ANSWERS[state.fault];
      if (!answer) return done();
      done(Object.assign(new Error(answer.text), { responseCode: answer.responseCode }));
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('error', done);
      stream.on('end', () => {
        const envelope = {
          from: session.envelope.mailFrom ? session.envelope.mailFrom.address : '',
          to: session.envelope.rcptTo.map(({ address }) => address)
        };
        takeIn(mailbox, state, Buffer.concat(chunks), envelope, () => hangUp(session, server)).then(
          () => done(),
          done
        );
      });
    }
  });
  return server;
}

/** Takes a message over as the switch says: at once, late, without ever saying so, or with a report that it could not be delivered. */
async function takeIn(
  mailbox: Mailbox,
  state: Switch,
  raw: Buffer,
  envelope: Envelope,
  hangUp: () => void
): Promise<void> {
  if (state.fault === 'bounce') {
    if (state.returnPort !== null) await sendReport(state.returnPort, raw, envelope);
    return;
  }
  await mailbox.keep(raw, envelope);
  if (state.fault === 'drop') hangUp();
  if (state.fault === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW_MS).unref());
}

/** Ends a connection without a word. */
function hangUp(session: SMTPServerSession, server: SMTPServer): void {
  const { connections } = server as unknown as { connections: Set<{ id: string; _socket: Socket }> };
  for (const connection of connections) if (connection.id === session.id) connection._socket.destroy();
}

function listSide(mailbox: Mailbox, state: Switch): Server {
  return createServer((request, response) => void answerList(mailbox, state, FAULTS, request, response));
}

function portOf(address: ReturnType<Server['address']>): number {
  return typeof address === 'object' && address ? address.port : 0;
}
