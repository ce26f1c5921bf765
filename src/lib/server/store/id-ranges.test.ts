import { expect, test } from 'vitest';
import { rangesOf } from './id-ranges.ts';

test('what lies together is one range, across small gaps and up to a length', () => {
  expect(rangesOf([], 10)).toEqual([]);
  expect(rangesOf([3, 4, 8, 13], 100)).toEqual([
    { first: 3, last: 8, ids: [3, 4, 8] },
    { first: 13, last: 13, ids: [13] }
  ]);
  expect(rangesOf([1, 2, 3, 4, 5], 3).map(({ first, last }) => [first, last])).toEqual([
    [1, 3],
    [4, 5]
  ]);
});

test('every id is in one range, and each range ends at ids that were asked for', () => {
  const ids = Array.from({ length: 500 }, (_, i) => i * 3 + (i % 7));
  const sorted = [...new Set(ids)].sort((a, b) => a - b);
  const ranges = rangesOf(sorted, 50);
  expect(ranges.flatMap((range) => range.ids)).toEqual(sorted);
  for (const { first, last, ids: own } of ranges) {
    expect([own[0], own.at(-1)]).toEqual([first, last]);
    expect(last - first).toBeLessThan(50);
  }
});
