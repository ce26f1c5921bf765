import { expect, it } from 'vitest';
import { RateWindow } from './rate.ts';

it('lets so many through in any sixty seconds, and says when the next may go', () => {
  const window = new RateWindow();
  for (const at of [0, 10_000, 59_000]) {
    expect(window.opensAt(at, 3)).toBe(at);
    window.count(at);
  }
  expect(window.opensAt(59_500, 3)).toBe(60_000);
  expect(window.opensAt(60_000, 3)).toBe(60_000);
  window.count(60_000);
  // Not a fresh three at the turn of the minute: 10 s, 59 s and 60 s are within one.
  expect(window.opensAt(60_001, 3)).toBe(70_000);
});

it('knows no limit where none is set, and is not shut by a clock that goes back', () => {
  const window = new RateWindow();
  for (let i = 0; i < 100; i++) window.count(1_000_000);
  expect(window.opensAt(1_000_000, null)).toBe(1_000_000);
  expect(window.opensAt(500_000, 1)).toBe(500_000);
  expect(window.isEmpty(500_000)).toBe(true);
});
