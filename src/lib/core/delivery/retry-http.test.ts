import { expect, it } from 'vitest';
import { decideHttpAttempt } from './retry.ts';

/** What the status codes mean is said by RFC 9110 §15; which of them are for now is our own reading of it, at `decideHttpAttempt`. */
it('reads what an answer over HTTP means', () => {
  expect(decideHttpAttempt(202, 'taken')).toEqual({ kind: 'accepted' });
  for (const status of [400, 403, 404, 410, 413, 422])
    expect(decideHttpAttempt(status, 'no')).toEqual({ kind: 'refused', detail: 'no' });
  for (const status of [301, 401, 408, 425, 429, 500, 502, 503])
    expect(decideHttpAttempt(status, 'not now')).toEqual({ kind: 'try-later', detail: 'not now' });
});

it('waits for as long as it is asked to, four hours at most (Retry-After, RFC 9110 §10.2.3)', () => {
  expect(decideHttpAttempt(503, 'x', '120')).toMatchObject({ afterMs: 120_000 });
  expect(decideHttpAttempt(429, 'x', '999999')).toMatchObject({ afterMs: 4 * 3_600_000 });
  expect(decideHttpAttempt(503, 'x', 'Fri, 06 Mar 2026 09:00:00 GMT')).toEqual({
    kind: 'try-later',
    detail: 'x'
  });
  expect(decideHttpAttempt(503, 'x', '-5')).toEqual({ kind: 'try-later', detail: 'x' });
});
