import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joins } from './already-told.ts';
import { bundle, type Bundled } from './bundle.ts';

const AT = Date.parse('2026-03-05T09:00:00Z');

/** What leaves to one reader at one instant: few of each, so that much of it meets. */
const leaving: fc.Arbitrary<Bundled[]> = fc.array(
  fc.record({
    ruleId: fc.integer({ min: 1, max: 3 }),
    stepId: fc.constantFrom('a', 'b'),
    taskId: fc.integer({ min: 1, max: 4 }),
    recipientId: fc.integer({ min: 1, max: 2 }),
    gather: fc.constantFrom('per task' as const, 'per recipient' as const, 'together' as const),
    kind: fc.constantFrom('reminder' as const, 'overdue' as const),
    forced: fc.boolean(),
    readerId: fc.constant(7),
    leavesAt: fc.constant(AT)
  }),
  { maxLength: 14 }
);

describe('the messages of one reader at one instant', () => {
  it('hold every notice once, in the order given', () => {
    fc.assert(
      fc.property(leaving, (notices) => {
        const messages = bundle(notices);
        const places = messages.map((message) => message.map((notice) => notices.indexOf(notice)));
        expect(places.flat().sort((a, b) => a - b)).toEqual(notices.map((_, i) => i));
        for (const place of places) expect(place).toEqual([...place].sort((a, b) => a - b));
      })
    );
  });

  it('say together what another rule says of the same task, and else what one Tell gathers', () => {
    fc.assert(
      fc.property(leaving, (notices) => {
        const messages = bundle(notices);
        const messageOf = (notice: Bundled) => messages.find((message) => message.includes(notice))!;
        /** Whether it has a place of its own, which others can join: it has not joined another itself. */
        const isPlaced = new Set<Bundled>();
        for (const notice of notices) {
          const first = [...isPlaced].find((other) => other.taskId === notice.taskId && joins(notice, other));
          if (first) expect(messageOf(notice)).toBe(messageOf(first));
          else isPlaced.add(notice);
        }
        for (const message of messages) {
          const [first, ...others] = message.filter((notice) => isPlaced.has(notice));
          for (const other of others)
            expect([other.ruleId, other.stepId, first!.gather]).toEqual([
              first!.ruleId,
              first!.stepId,
              expect.not.stringMatching('per task')
            ]);
        }
      })
    );
  });
});
