import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseCalendar } from '../calendar/spec.ts';
import { WorkingDays } from '../calendar/working-days.ts';
import { formatDay, parseDay, partsOfDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { closedDay } from './closed-day.ts';
import { CLOSED_DAY_RULES, type ClosedDayRule } from './lead.ts';

const WEEK = { mon: ['09:00-17:00'], tue: ['09:00-17:00'], wed: ['09:00-17:00'], thu: ['09:00-17:00'] };
const workingDays = (closed: string[]) =>
  new WorkingDays(parseCalendar({ week: { ...WEEK, fri: ['09:00-17:00'] }, closed }), zoneNamed('UTC'));
const moved = (date: string, rule: ClosedDayRule, n: number, closed: string[] = []) => {
  const day = closedDay(parseDay(date), rule, n, workingDays(closed));
  return Number.isNaN(day) ? null : formatDay(day);
};

describe('a date on a closed day', () => {
  // ISDA 2006 Definitions, section 4.12, business day conventions; dates worked out by hand.
  it.each<[string, string, ClosedDayRule, string]>([
    ['following', '2026-01-31', 'later', '2026-02-02'],
    ['preceding', '2026-02-01', 'earlier', '2026-01-30'],
    ['modified following stays in the month', '2026-01-31', 'later-in-month', '2026-01-30'],
    ['modified following, not at the end', '2026-01-24', 'later-in-month', '2026-01-26'],
    ['modified preceding stays in the month', '2026-02-01', 'earlier-in-month', '2026-02-02'],
    ['modified preceding, not at the start', '2026-02-08', 'earlier-in-month', '2026-02-06'],
    ['nearest, from Saturday', '2026-03-07', 'nearest', '2026-03-06'],
    ['nearest, from Sunday', '2026-03-08', 'nearest', '2026-03-09']
  ])('%s', (_, date, rule, expected) => {
    expect(moved(date, rule, -1)).toBe(expected);
  });

  it('goes later on a tie, and later where the whole month is closed', () => {
    // Wednesday alone is closed: one day to either side.
    expect(moved('2026-03-04', 'nearest', 0, ['2026-03-04'])).toBe('2026-03-05');
    const february = Array.from({ length: 28 }, (_, i) => formatDay(parseDay('2026-02-01') + i));
    expect(moved('2026-02-10', 'later-in-month', 0, february)).toBe('2026-03-02');
    expect(moved('2026-02-10', 'earlier-in-month', 0, february)).toBe('2026-03-02');
  });

  it('goes onward in the direction of counting', () => {
    expect([-1, 0, 1].map((n) => moved('2026-03-07', 'onward', n))).toEqual([
      '2026-03-06',
      '2026-03-09',
      '2026-03-09'
    ]);
  });

  it('always ends on a working day, in its month where it says so, and leaves working days alone', () => {
    const days = workingDays(['2026-12-25', '2027-01-01', '2027-03-26']);
    fc.assert(
      fc.property(
        fc.integer({ min: parseDay('2026-01-01'), max: parseDay('2027-12-31') }),
        fc.constantFrom(...CLOSED_DAY_RULES),
        fc.constantFrom(-3, 0, 3),
        (day, rule, n) => {
          const to = closedDay(day, rule, n, days);
          if (days.isWorking(day) || rule === 'as-is') return to === day;
          if (rule === 'skip') return Number.isNaN(to);
          expect(days.isWorking(to)).toBe(true);
          if (rule.endsWith('in-month')) expect(partsOfDay(to).month).toBe(partsOfDay(day).month);
          // Nothing that is nearer in the same direction was passed over.
          for (let between = Math.min(day, to) + 1; between < Math.max(day, to); between++)
            expect(days.isWorking(between)).toBe(false);
          return true;
        }
      )
    );
  });
});
