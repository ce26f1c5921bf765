import { request as plainRequest, STATUS_CODES, type IncomingMessage } from 'node:http';
import { request as tlsRequest } from 'node:https';
import { decideHttpAttempt } from '../../core/delivery/retry.ts';
import { CodedError } from '../../core/errors.ts';
import { AttemptFailed } from './channel.ts';
import type { OutgoingReach } from './reach.ts';

/** What a service says besides its status is not read further than it takes to keep the line. */
const LONGEST_ANSWER = 64 * 1024;
const CONNECT_MS = 10_000;

/** A line that came to nothing before an answer. */
class LineFailed extends Error {
  /** Whether it stood, so that what was sent may have been heard. */
  readonly stood: boolean;

  constructor(cause: unknown, stood: boolean) {
    super('the connection failed', { cause });
    this.stood = stood;
  }
}

/**
 * Posts JSON, and throws unless it is taken. What fails is told by the status alone: the service's words may be those of any machine that it was set to,
 * and its address may be all that it takes to send in the workspace's name.
 * @param token of the Authorization header (RFC 6750 §2.1); null without one
 * @param reach where it may be sent; null where whoever started the server chose the address
 */
export async function postJson(
  url: string,
  token: string | null,
  body: unknown,
  signal: AbortSignal,
  reach: OutgoingReach | null
): Promise<void> {
  let response: IncomingMessage;
  try {
    response = await post(url, token, JSON.stringify(body), signal, reach);
  } catch (error) {
    if (error instanceof CodedError) throw new AttemptFailed({ kind: 'try-later', detail: error.message });
    const { cause, stood } = error as LineFailed;
    if (cause instanceof CodedError) throw new AttemptFailed({ kind: 'try-later', detail: cause.message });
    const { code } = cause as { code?: string };
    const detail = signal.aborted ? 'no answer in time' : `no connection${code ? ` (${code})` : ''}`;
    throw new AttemptFailed({ kind: 'try-later', detail, unknown: stood, unreached: !stood });
  }
  const status = response.statusCode!;
  const detail = `${status} ${STATUS_CODES[status] ?? ''}`.trim();
  // A redirect is no acceptance: where else it would be sent to was not set by anybody here.
  const outcome = decideHttpAttempt(status, detail, response.headers['retry-after'] ?? null);
  if (outcome.kind !== 'accepted') throw new AttemptFailed(outcome);
}

/** @throws CodedError `address-inside`, or LineFailed */
function post(
  url: string,
  token: string | null,
  body: string,
  signal: AbortSignal,
  reach: OutgoingReach | null
): Promise<IncomingMessage> {
  const { protocol, hostname } = new URL(url);
  reach?.checkLiteral(hostname);
  const isTls = protocol === 'https:';
  const headers = {
    'content-type': 'application/json',
    'content-length': Buffer.byteLength(body),
    ...(token === null ? {} : { authorization: `Bearer ${token}` })
  };
  const lookup = reach ? { lookup: reach.lookup } : {};
  return new Promise((resolve, reject) => {
    let stood = false;
    const request = (isTls ? tlsRequest : plainRequest)(url, { method: 'POST', headers, signal, ...lookup });
    const late = setTimeout(
      () => request.destroy(Object.assign(new Error('no connection'), { code: 'ETIMEDOUT' })),
      CONNECT_MS
    );
    const stands = () => {
      stood = true;
      clearTimeout(late);
    };
    request.once('socket', (socket) => {
      // One that is used again stands already.
      if (socket.connecting) socket.once(isTls ? 'secureConnect' : 'connect', stands);
      else stands();
    });
    request.once('close', () => clearTimeout(late));
    request.once('error', (error) => reject(new LineFailed(error, stood)));
    request.once('response', (response) => {
      letPass(response);
      resolve(response);
    });
    request.end(body);
  });
}

/** Reads an answer to its end, so that its line can be used again; one that does not end is broken off. */
function letPass(response: IncomingMessage): void {
  let read = 0;
  response.on('data', (chunk: Buffer) => {
    read += chunk.length;
    if (read > LONGEST_ANSWER) response.destroy();
  });
  response.on('error', () => response.destroy());
}
