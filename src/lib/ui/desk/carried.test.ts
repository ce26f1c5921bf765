import { describe, expect, it } from 'vitest';
import type { DeskTaskView } from '$lib/view/desk.ts';
import { carriedTo, dayTarget } from './carried.ts';

const TODAY = '2026-03-05';
const task = (due: string | null) => ({ id: 1, name: 'Send the log', due }) as DeskTaskView;
const friday = dayTarget('2026-03-06', TODAY);

describe('carrying a task to a day', () => {
  it('plans it where that is not after its due date', () => {
    expect(carriedTo([task('2026-03-06')], friday, TODAY)).toMatchObject({
      ...{ late: [], undated: [] },
      words: 'Planned for Fri 6 Mar. The due date stays.'
    });
  });

  it('asks for a new due date where it is after it; the old one can stay only while it is ahead', () => {
    const monday = dayTarget('2026-03-09', TODAY);
    expect(carriedTo([task('2026-03-06')], monday, TODAY)).toMatchObject({
      mayKeepDue: true,
      newDue: '2026-03-09'
    });
    expect(carriedTo([task('2026-03-05')], monday, TODAY)).toMatchObject({ mayKeepDue: false });
    expect(carriedTo([task('2026-03-06'), task('2026-03-04')], monday, TODAY)).toMatchObject({
      mayKeepDue: false
    });
    expect(carriedTo([task('2026-03-06')], monday, TODAY).words).toBe(
      'Planned for Mon 9 Mar: after its due date, Fri 6 Mar. You are asked for a new one.'
    );
  });

  it('asks of one without a date whether the day is its due date; leaving it asks nothing', () => {
    expect(carriedTo([task(null)], friday, TODAY).undated).toHaveLength(1);
    const left = carriedTo([task(null), task('2026-03-01')], { ...friday, to: 'leave' }, TODAY);
    expect([left.late, left.undated]).toEqual([[], []]);
  });
});
