import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NoticeList } from './notice-list.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';

const anyNotice = fc.record({
  ruleId: fc.integer({ min: 1, max: 4 }),
  leadId: fc.constantFrom('a', 'b'),
  leadOrder: fc.nat(3),
  taskId: fc.integer({ min: 1, max: 2 ** 40 }),
  recipientId: fc.integer({ min: 1, max: 9 }),
  readerId: fc.integer({ min: 1, max: 9 }),
  // Mostly whole minutes; sometimes one that rang at once, and sometimes far away.
  ringAt: fc.oneof(
    fc.integer({ min: 0, max: 5 }).map((minute) => minute * 60_000),
    fc.integer({ min: 0, max: 300_000 }),
    fc.constant(9e12)
  ),
  leavesAt: fc.integer({ min: 0, max: 5 }).map((minute) => minute * 60_000),
  originDay: fc.integer({ min: -30_000, max: 90_000 }),
  lateBell: fc.boolean(),
  folded: fc.boolean(),
  unrung: fc.constantFrom(null, null, 'same moment' as const, 'never reachable' as const),
  ordinal: fc.integer({ min: 0, max: 9 }),
  stepId: fc.constantFrom('tell', 'other'),
  ifActs: fc.option(fc.integer({ min: 1, max: 9 })),
  noticeId: fc.option(fc.integer({ min: 1, max: 2 ** 40 }))
});

const ranks = new Map([
  [3, 0],
  [1, 1],
  [4, 2],
  [2, 3]
]);
const shown = (notice: PlannedNotice) => (notice.unrung === null ? notice.leavesAt : notice.ringAt);

describe('a list of notices in columns', () => {
  it('gives back what was put in, and sorts as a plain sort does', () => {
    fc.assert(
      fc.property(fc.array(anyNotice, { maxLength: 60 }), (notices) => {
        const list = new NoticeList();
        for (const notice of notices) list.push(notice);
        expect([...list]).toEqual(notices);
        list.sort(ranks);
        const expected = [...notices].sort(
          (a, b) => shown(a) - shown(b) || ranks.get(a.ruleId)! - ranks.get(b.ruleId)!
        );
        expect([...list]).toEqual(expected);
        expect(list.first(5)).toEqual(expected.slice(0, 5));
      }),
      { numRuns: 300 }
    );
  });

  it('grows past its first room, and is empty when nothing was put in', () => {
    const [notice] = fc.sample(anyNotice, { numRuns: 1, seed: 1 });
    const list = new NoticeList();
    list.sort(ranks);
    expect([...list]).toEqual([]);
    for (let i = 0; i < 3_000; i++) list.push({ ...notice!, taskId: i });
    expect(list.length).toBe(3_000);
    expect(list.at(2_999).taskId).toBe(2_999);
  });
});
