import { describe, expect, it } from 'vitest';
import type { StripView } from '$lib/view/models.ts';
import { stripHours } from './strip-hours.ts';

const mark = (atMs: number, count = 1) => ({ atMs, count, bellKey: `b${atMs}` });
const strip = {
  fromMs: 5,
  ticks: [
    { atMs: 10, label: '08:00' },
    { atMs: 20, label: '10:00' }
  ],
  rows: [
    { personId: 1, name: 'Ines', marks: [mark(6), mark(10, 2), mark(19), mark(20)] },
    { personId: 2, name: 'Rui', marks: [mark(25, 3)] }
  ]
} as unknown as StripView;

describe('the strip as a list', () => {
  it('has each bell once, in the stretch in which it rings', () => {
    expect(stripHours(strip)).toEqual([
      { fromMs: 5, label: 'now', people: [{ personId: 1, name: 'Ines', count: 1, bellKey: 'b6' }] },
      { fromMs: 10, label: 'from 08:00', people: [{ personId: 1, name: 'Ines', count: 3, bellKey: 'b10' }] },
      {
        fromMs: 20,
        label: 'from 10:00',
        people: [
          { personId: 1, name: 'Ines', count: 1, bellKey: 'b20' },
          { personId: 2, name: 'Rui', count: 3, bellKey: 'b25' }
        ]
      }
    ]);
  });
});
