import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/** What the stand-in can be told to do wrong. */
type Fault = 'none' | 'refuse' | 'try-later';

interface Stored {
  id: number;
  receivedAt: number;
  from: string;
  to: string[];
  subject: string;
  date: number | null;
  messageId: string;
  text: string;
  html: string;
  headers: string;
}

export interface MailStandInOptions {
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

/**
 * The mail stand-in: a small server that takes every message over SMTP, keeps it exactly as received, and lists what it
 * has over HTTP. It listens on this machine only.
 */
export async function startMailStandIn({
  smtpPort,
  httpPort,
  dir
}: MailStandInOptions): Promise<MailStandIn> {
  const file = dir ? join(dir, 'messages.jsonl') : null;
  if (dir) mkdirSync(dir, { recursive: true });
  const messages: Stored[] = file && existsSync(file) ? readLines(file) : [];
  let fault: Fault = 'none';

  const smtp = new SMTPServer({
    authOptional: true,
    // It works without a network, so nobody is asked for the name of a client.
    disableReverseLookup: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    onRcptTo(_address, _session, done) {
      if (fault === 'refuse')
        return done(Object.assign(new Error('The stand-in refuses mail for now.'), { responseCode: 550 }));
      if (fault === 'try-later')
        return done(Object.assign(new Error('The stand-in asks to try later.'), { responseCode: 451 }));
      done();
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
        keep(Buffer.concat(chunks), envelope).then(() => done(), done);
      });
    }
  });

  async function keep(raw: Buffer, envelope: { from: string; to: string[] }): Promise<void> {
    const parsed = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
    const end = raw.indexOf('\r\n\r\n');
    const stored: Stored = {
      id: messages.length + 1,
      receivedAt: Date.now(),
      ...envelope,
      subject: parsed.subject ?? '',
      date: parsed.date?.getTime() ?? null,
      messageId: parsed.messageId ?? '',
      text: parsed.text ?? '',
      html: parsed.html || '',
      headers: raw.subarray(0, end < 0 ? raw.length : end).toString('utf8')
    };
    messages.push(stored);
    if (file) appendFileSync(file, `${JSON.stringify(stored)}\n`);
  }

  const http = createServer((request, response) => {
    answer(request, response).catch((error: unknown) => send(response, 400, { error: String(error) }));
  });

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://stand-in');
    const one = /^\/messages\/(\d+)$/.exec(url.pathname);
    if (one) {
      const found = messages[Number(one[1]) - 1];
      return found ? send(response, 200, { ...found, copies: copiesOf(found) }) : send(response, 404, null);
    }
    if (url.pathname === '/messages') return send(response, 200, list(url.searchParams));
    if (url.pathname === '/fault' && request.method === 'PUT') {
      const { fault: wanted } = JSON.parse(await bodyOf(request)) as { fault: Fault };
      if (!['none', 'refuse', 'try-later'].includes(wanted))
        throw new Error(`There is no fault ${String(wanted)}`);
      fault = wanted;
    }
    if (url.pathname === '/fault') return send(response, 200, { fault });
    send(response, 404, null);
  }

  function list(query: URLSearchParams): unknown {
    const search = (query.get('search') ?? '').toLowerCase();
    const offset = Number(query.get('offset') ?? 0);
    const limit = Math.min(1_000, Number(query.get('limit') ?? 50));
    const found = messages
      .filter(({ subject, to, text }) =>
        `${subject}\n${to.join(' ')}\n${text}`.toLowerCase().includes(search)
      )
      .sort((a, b) => (b.date ?? 0) - (a.date ?? 0) || b.id - a.id);
    const page = found.slice(offset, offset + limit).map((message) => {
      const { id, receivedAt, from, to, subject, date, messageId } = message;
      return { id, receivedAt, from, to, subject, date, messageId, copies: copiesOf(message) };
    });
    return { total: found.length, messages: page };
  }

  function copiesOf(message: Stored): number {
    return messages.filter(({ messageId }) => messageId === message.messageId).length;
  }

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

function readLines(file: string): Stored[] {
  return readFileSync(file, 'utf8')
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line) as Stored);
}

function portOf(address: ReturnType<import('node:net').Server['address']>): number {
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
