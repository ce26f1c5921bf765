import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inShort, ticksOf } from './bell-series.ts';
import type { BellView } from './models.ts';

const DAY = 86_400_000;

function bell(key: string, patch: Partial<BellView> & { at?: number } = {}): BellView {
  const { at = 0, ...rest } = patch;
  return {
    ...{ key, kind: 'overdue', ruleId: 1, ruleName: 'Overdue', lead: 'each working day after the due date' },
    ...{
      taskId: 7,
      taskName: 'Renew it',
      recipientId: 2,
      recipientName: 'Rui',
      readerId: 2,
      readerName: 'Rui'
    },
    ...{ time: { atMs: at, there: `day ${at / DAY}`, place: 'Lisbon', here: null }, heldFrom: null },
    ...{ unrung: null, lateBell: false, inDoubt: false, ifActs: null, why: [], ...rest }
  };
}

describe('bells in short', () => {
  it('list what comes again and again three times, and count the rest behind the third', () => {
    const daily = Array.from({ length: 271 }, (_, i) => bell(`d${i}`, { at: i * DAY }));
    const other = bell('other', { ruleId: 2, at: 9.5 * DAY });
    const bells = [...daily.slice(0, 10), other, ...daily.slice(10)];
    const { listed, further, rest } = inShort(bells);
    expect(listed.map(({ key }) => key)).toEqual(['d0', 'd1', 'd2', 'other']);
    expect(further).toEqual([{ afterKey: 'd2', count: 268, until: 'day 270' }]);
    expect(rest).toHaveLength(268);
  });

  it('lose none, keep the order, and begin each series with its first', () => {
    const one = fc.record({
      ruleId: fc.integer({ min: 1, max: 3 }),
      readerId: fc.integer({ min: 1, max: 2 }),
      unrung: fc.constantFrom(null, 'stuck on others')
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 40 }), (patches) => {
        const bells = patches.map((patch, i) => bell(String(i), { ...patch, at: i * DAY }));
        const { listed, further, rest } = inShort(bells);
        expect([...listed, ...rest].sort((a, b) => a.time.atMs - b.time.atMs)).toEqual(bells);
        expect(listed).toEqual(bells.filter((each) => listed.includes(each)));
        expect(further.reduce((all, { count }) => all + count, 0)).toBe(rest.length);
        for (const late of rest) {
          const same = listed.filter(
            (each) =>
              each.ruleId === late.ruleId && each.readerId === late.readerId && each.unrung === late.unrung
          );
          expect(same).toHaveLength(3);
          expect(Math.max(...same.map(({ time }) => time.atMs))).toBeLessThan(late.time.atMs);
        }
      })
    );
  });

  it('list a fourth rather than say that there is one more', () => {
    const four = [0, 1, 2, 3].map((day) => bell(String(day), { at: day * DAY }));
    expect(inShort(four)).toEqual({ listed: four, further: [], rest: [] });
  });

  it('stand on the line as far as it reaches', () => {
    const kind = (day: number) => (day < 0 ? 'late bell' : 'reminder');
    const bells = [-50, -10, 5, 89, 91, 200].map((day) =>
      bell(String(day), { at: day * DAY, kind: kind(day) })
    );
    const { ticks, beyond } = ticksOf(bells, 0);
    expect(ticks).toEqual([
      { late: true, atMs: [-10 * DAY] },
      { late: false, atMs: [5 * DAY, 89 * DAY] }
    ]);
    expect(beyond).toBe(2);
  });
});
