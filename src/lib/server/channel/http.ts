import { decideHttpAttempt } from '../../core/delivery/retry.ts';
import { AttemptFailed } from './channel.ts';

/** Answers are read so far; a service that says more says nothing that we need. */
const LONGEST_ANSWER = 300;

/** Failures of the line before anything was sent. */
const NOT_REACHED = new Set([
  'ECONNREFUSED',
  'ENOTFOUND',
  'EAI_AGAIN',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'UND_ERR_CONNECT_TIMEOUT'
]);

/**
 * Posts JSON, and throws unless it is taken. What fails is told by the service's answer, never by its address: that may be all that it takes to
 * send in the workspace's name.
 * @param token of the Authorization header (RFC 6750 §2.1); null without one
 */
export async function postJson(
  url: string,
  token: string | null,
  body: unknown,
  signal: AbortSignal
): Promise<void> {
  let response: Response;
  try {
    response = await fetch(url, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        ...(token === null ? {} : { authorization: `Bearer ${token}` })
      },
      body: JSON.stringify(body),
      // Where else it would be sent to was not set by anybody here.
      redirect: 'error',
      signal
    });
  } catch (error) {
    const { cause } = error as { cause?: { code?: string } };
    const detail = signal.aborted
      ? 'no answer in time'
      : `it could not be reached${cause?.code ? ` (${cause.code})` : ''}`;
    throw new AttemptFailed({ kind: 'try-later', detail, unknown: !NOT_REACHED.has(cause?.code ?? '') });
  }
  const said = (await response.text().catch(() => '')).slice(0, LONGEST_ANSWER).trim();
  const detail = `${response.status}${said ? ` ${said}` : ''}`;
  const outcome = decideHttpAttempt(response.status, detail, response.headers.get('retry-after'));
  if (outcome.kind !== 'accepted') throw new AttemptFailed(outcome);
}
