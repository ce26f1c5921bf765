import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { SMTPServer } from 'smtp-server';
import { Mailbox } from './mailbox.ts';

/** What the stand-in can be told to do wrong. */
const FAULTS = ['none', 'refuse', 'try-later'] as const;
type Fault = (typeof FAULTS)[number];

/** The SMTP answers of the faults (RFC 5321 §4.2): 5xx for good, 4xx for now. */
const ANSWERS: Partial<Record<Fault, { responseCode: number; text: string }>> = {
  refuse: { responseCode: 550, text: 'The stand-in refuses mail for now.' },
  'try-later': { responseCode: 451, text: 'The stand-in asks to try later.' }
};

export interface MailStandInOptions {
  /** 0 lets the machine choose. */
  smtpPort: number;
  httpPort: number;
  /** Where received messages are kept between starts; absent: only in memory. */
  dir?: string;
}

export interface MailStandIn {
  smtpPort: number;
  httpPort: number;
  close(): Promise<void>;
}

/** The switch that the list can turn and the mail side obeys. */
interface Switch {
  fault: Fault;
}

/**
 * The mail stand-in: a small server that takes every message over SMTP, keeps it exactly as received, and lists what it
 * has over HTTP. It listens on this machine only.
 */
export async function startMailStandIn({
  smtpPort,
  httpPort,
  dir
}: MailStandInOptions): Promise<MailStandIn> {
  const mailbox = new Mailbox(dir);
  const state: Switch = { fault: 'none' };
  const smtp = smtpSide(mailbox, state);
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
    async close() {
      http.closeAllConnections();
      await Promise.all([
        new Promise((done) => smtp.close(() => done(null))),
        new Promise((done) => http.close(done))
      ]);
    }
  };
}

function smtpSide(mailbox: Mailbox, state: Switch): SMTPServer {
  return new SMTPServer({
    authOptional: true,
    // It works without a network, so nobody is asked for the name of a client.
    disableReverseLookup: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    onRcptTo(_address, _session, done) {
      const answer = ANSWERS[state.fault];
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
        mailbox.keep(Buffer.concat(chunks), envelope).then(() => done(), done);
      });
    }
  });
}

function listSide(mailbox: Mailbox, state: Switch): Server {
  return createServer((request, response) => {
    answer(mailbox, state, request, response).catch((error: unknown) =>
      send(response, 400, { error: String(error) })
    );
  });
}

async function answer(
  mailbox: Mailbox,
  state: Switch,
  request: IncomingMessage,
  response: ServerResponse
): Promise<void> {
  const { pathname, searchParams } = new URL(request.url ?? '/', 'http://stand-in');
  const one = /^\/messages\/(\d+)$/.exec(pathname);
  if (one) {
    const found = mailbox.byId(Number(one[1]));
    return send(response, found ? 200 : 404, found);
  }
  if (pathname === '/messages') {
    const limit = Math.min(1_000, Number(searchParams.get('limit') ?? 50));
    const offset = Number(searchParams.get('offset') ?? 0);
    return send(response, 200, mailbox.list(searchParams.get('search') ?? '', offset, limit));
  }
  if (pathname !== '/fault') return send(response, 404, null);
  if (request.method === 'PUT') {
    const { fault } = JSON.parse(await bodyOf(request)) as { fault: Fault };
    if (!FAULTS.includes(fault)) throw new Error(`There is no fault ${String(fault)}`);
    state.fault = fault;
  }
  send(response, 200, { fault: state.fault });
}

function portOf(address: ReturnType<Server['address']>): number {
  return typeof address === 'object' && address ? address.port : 0;
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) text += String(chunk);
  return text;
}

function send(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify(body));
}
