import { expect, it } from 'vitest';
import type { DeskBell } from '$lib/view/desk.ts';
import { marksOf, placeOn } from './bar-marks.ts';

const bell = (minute: number, patch: Partial<DeskBell> = {}) =>
  ({ key: String(minute), minute, kind: 'reminder', rung: false, time: '', about: '', ...patch }) as DeskBell;

it('an hour lies where it is between the ends of its bar; what is outside lies at an end', () => {
  expect([8, 13, 18, 6, 20].map((hour) => placeOn(hour * 60, [8, 18]))).toEqual([0, 50, 100, 0, 100]);
});

it('bells of one kind on one spot are one mark with their number', () => {
  const marks = marksOf([bell(540), bell(545), bell(545, { kind: 'overdue', key: 'o' }), bell(900)], [8, 18]);
  expect(marks.map(({ kind, count }) => [kind, count])).toEqual([
    ['reminder', 2],
    ['overdue', 1],
    ['reminder', 1]
  ]);
});
