import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { zoneNamed } from '../time/zone.ts';
import { Leave, NO_LEAVE, parseLeave } from './leave.ts';

const HALIFAX = zoneNamed('America/Halifax');

describe('leave cut out of working time', () => {
  it('leaves what lies before, between and after it', () => {
    const leave = new Leave([
      [20, 30],
      [35, 36],
      [50, 90]
    ]);
    expect(
      leave.cutOutOf([
        [0, 10],
        [15, 40],
        [45, 60],
        [70, 80],
        [85, 95]
      ])
    ).toEqual([
      [0, 10],
      [15, 20],
      [30, 35],
      [36, 40],
      [45, 50],
      [90, 95]
    ]);
    expect(NO_LEAVE.cutOutOf([[0, 10]])).toEqual([[0, 10]]);
  });
});

describe('leave', () => {
  it('covers both its days, in the person’s zone, over a clock change', () => {
    const leave = parseLeave([{ from: '2026-03-07', to: '2026-03-08' }], HALIFAX);
    const at = (text: string) => leave.covers(Date.parse(text));
    expect([
      at('2026-03-07T03:59Z'),
      at('2026-03-07T04:00Z'),
      at('2026-03-09T02:59Z'),
      at('2026-03-09T03:00Z')
    ]).toEqual([...[false, true, true, false]]);
    expect(leave.endOf(Date.parse('2026-03-08T12:00Z'))).toBe(Date.parse('2026-03-09T03:00Z'));
    expect(leave.startOf(Date.parse('2026-03-08T12:00Z'))).toBe(Date.parse('2026-03-07T04:00Z'));
  });

  it('may begin or end at noon', () => {
    const leave = parseLeave([{ from: '2026-03-10T13:00', to: '2026-03-11T12:00' }], HALIFAX);
    expect([
      leave.covers(Date.parse('2026-03-10T15:59Z')),
      leave.covers(Date.parse('2026-03-10T16:00Z'))
    ]).toEqual([false, true]);
    expect(leave.covers(Date.parse('2026-03-11T15:00Z'))).toBe(false);
  });

  it('joins stretches that touch, so that its end is the end of all of them', () => {
    const span = fc
      .tuple(fc.nat(60), fc.integer({ min: 1, max: 10 }))
      .map(([from, length]) => [from, from + length] as const);
    fc.assert(
      fc.property(fc.array(span, { maxLength: 8 }), fc.nat(75), (spans, at) => {
        const leave = new Leave(spans);
        const on = (minute: number) => spans.some(([from, to]) => minute >= from && minute < to);
        expect(leave.covers(at)).toBe(on(at));
        if (!on(at)) return;
        let end = at;
        while (on(end)) end++;
        expect(leave.endOf(at)).toBe(end);
      })
    );
  });
});
