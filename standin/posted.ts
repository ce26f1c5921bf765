import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { KeptMessages } from './kept.ts';
import { answerList, bodyOf, send } from './list.ts';

/** A message that was posted to a stand-in, as it was received. */
export interface Posted {
  id: number;
  /** Machine clock, ms. */
  receivedAt: number;
  to: string;
  /** The first words of it. */
  subject: string;
  text: string;
  /** By what a repeat is known. */
  messageId: string;
  /** Everything that was posted. */
  body: Record<string, unknown>;
}

/** What a stand-in that is posted to can be told to do wrong. */
export const POSTED_FAULTS = ['none', 'refuse', 'try-later', 'slow', 'drop', 'bounce'] as const;
export type PostedFault = (typeof POSTED_FAULTS)[number];

/** How one kind of service reads what is posted, and what it does besides taking it. */
export interface PostedService {
  /** The file that messages are kept in between starts. */
  file: string;
  faults: readonly PostedFault[];
  /** Whether a request is a message for this service, and comes from somebody who may send one. */
  admits(request: IncomingMessage, path: string): 'yes' | 'no way in' | 'another matter';
  read(body: Record<string, unknown>): Pick<Posted, 'to' | 'subject' | 'text' | 'messageId'>;
  /** Nobody is there under that address. */
  isNobody(to: string): boolean;
  /** After it was taken. @param bounced whether it is said to have arrived nowhere */
  after?(message: Posted, bounced: boolean): void;
}

export interface PostedStandIn {
  port: number;
  close(): Promise<void>;
}

/** How long a slow one takes before it answers. */
const SLOW_MS = 20_000;
const LARGEST_BYTES = 200_000;

/** Starts a small server that takes messages by HTTP POST, keeps them as received, and lists what it has. It listens on this machine only. */
export async function startPosted(
  service: PostedService,
  port: number,
  dir: string | undefined
): Promise<PostedStandIn> {
  const box = new PostedBox(dir, service.file);
  const state: { fault: PostedFault } = { fault: 'none' };
  const server = createServer((request, response) => {
    const { pathname } = new URL(request.url ?? '/', 'http://stand-in');
    const admitted = request.method === 'POST' ? service.admits(request, pathname) : 'another matter';
    if (admitted === 'another matter') return void answerList(box, state, service.faults, request, response);
    if (admitted === 'no way in') return send(response, 401, { error: 'The stand-in does not know you.' });
    void take(service, box, state.fault, request, response).catch((error: unknown) =>
      send(response, 400, { error: String(error) })
    );
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const address = server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    async close() {
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
    }
  };
}

/** Takes a message as it was told: at once, late, without ever saying so, not, or only to say later that it did not arrive. */
async function take(
  service: PostedService,
  box: PostedBox,
  fault: PostedFault,
  request: IncomingMessage,
  response: ServerResponse
): Promise<void> {
  const text = await bodyOf(request);
  if (text.length > LARGEST_BYTES) return send(response, 413, { error: 'That is too large.' });
  const body = JSON.parse(text) as Record<string, unknown>;
  const said = service.read(body);
  if (service.isNobody(said.to)) return send(response, 404, { error: 'Nobody is there under that address.' });
  if (fault === 'refuse') return send(response, 403, { error: 'The stand-in refuses messages for now.' });
  if (fault === 'try-later')
    return send(response, 503, { error: 'The stand-in asks to try later.' }, { 'retry-after': '1' });
  const message = box.keep(said, body, fault !== 'bounce');
  if (fault === 'drop') return void request.socket.destroy();
  if (fault === 'slow') await new Promise((resolve) => setTimeout(resolve, SLOW_MS).unref());
  send(response, 202, { id: message.id });
  service.after?.(message, fault === 'bounce');
}

class PostedBox {
  readonly #kept: KeptMessages<Posted>;

  constructor(dir: string | undefined, file: string) {
    this.#kept = new KeptMessages(dir, file);
  }

  /** @param listed whether it reaches its reader */
  keep(
    said: Pick<Posted, 'to' | 'subject' | 'text' | 'messageId'>,
    body: Record<string, unknown>,
    listed: boolean
  ): Posted {
    const message = { id: this.#kept.all.length + 1, receivedAt: Date.now(), ...said, body };
    if (listed) this.#kept.add(message);
    return message;
  }

  byId(id: number): (Posted & { copies: number }) | null {
    return this.#kept.byId(id);
  }

  /** A page of what is sought, the newest first. @param reader one address; empty for all */
  list(
    search: string,
    reader: string,
    offset: number,
    limit: number
  ): { total: number; messages: unknown[] } {
    const found = this.#kept.sought(search, reader).reverse();
    const messages = found
      .slice(offset, offset + limit)
      .map((message) => ({ ...message, body: undefined, copies: this.#kept.copiesOf(message) }));
    return { total: found.length, messages };
  }
}
