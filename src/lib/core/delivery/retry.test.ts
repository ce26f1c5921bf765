import { describe, expect, it } from 'vitest';
import { JITTER, RETRY_WAIT_MINUTES, decideAttempt, retryWaitMs } from './retry.ts';

describe('waits between attempts', () => {
  it('are these: seconds where a line was bad, hours where a server is down, nine and no more', () => {
    // Our own choice: common practice, no source.
    expect(RETRY_WAIT_MINUTES).toEqual([0.1, 0.5, 2, 5, 15, 30, 60, 120, 240]);
  });

  it('grow, and end', () => {
    const waits = RETRY_WAIT_MINUTES.map((_, i) => retryWaitMs(i + 1, 0.5)!);
    expect(waits).toEqual(RETRY_WAIT_MINUTES.map((minutes) => minutes * 60_000));
    expect([...waits].sort((a, b) => a - b)).toEqual(waits);
    expect(retryWaitMs(RETRY_WAIT_MINUTES.length + 1, 0.5)).toBeNull();
  });

  it('are spread by chance, by a known part to either side', () => {
    const [least, middle, most] = [0, 0.5, 1].map((chance) => retryWaitMs(3, chance)!);
    expect(least).toBe(Math.round(middle! * (1 - JITTER)));
    expect(most).toBe(Math.round(middle! * (1 + JITTER)));
  });
});

describe('what the other side’s answer means', () => {
  // RFC 5321 §4.2.1: 4yz is a transient negative reply, 5yz a permanent one.
  it.each([
    [421, 'try-later'],
    [450, 'try-later'],
    [550, 'refused'],
    [554, 'refused'],
    [null, 'try-later']
  ] as const)('%s', (code, kind) => {
    expect(decideAttempt(code, 'said').kind).toBe(kind);
  });
});
