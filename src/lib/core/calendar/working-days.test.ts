import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay, parseDay, partsOfDay, dayFromParts, FIRST_DAY, LAST_DAY } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { WEEKDAYS, parseCalendar } from './spec.ts';
import { WorkingDays } from './working-days.ts';

const UTC = zoneNamed('UTC');
const anyDay = fc.integer({ min: parseDay('2020-01-01'), max: parseDay('2035-12-31') });

const anyCalendar = fc
  .record({
    open: fc.subarray([...WEEKDAYS], { minLength: 1 }),
    closed: fc.uniqueArray(anyDay, { maxLength: 30 }),
    extra: fc.uniqueArray(anyDay, { maxLength: 10 })
  })
  .map(({ open, closed, extra }) =>
    parseCalendar({
      week: Object.fromEntries(open.map((weekday) => [weekday, ['09:00-17:00']])),
      closed: closed.map(formatDay),
      hours: Object.fromEntries(extra.map((day) => [formatDay(day), ['10:00-12:00']]))
    })
  );

describe('working days', () => {
  it('steps as a walk day by day does, whatever was asked before', () => {
    fc.assert(
      fc.property(
        anyCalendar,
        fc.array(fc.tuple(anyDay, fc.integer({ min: -40, max: 40 })), { minLength: 1, maxLength: 8 }),
        (calendar, asks) => {
          const days = new WorkingDays(calendar, UTC);
          for (const [day, n] of asks) {
            let walked = day;
            for (let left = Math.abs(n); left > 0;) {
              walked += Math.sign(n);
              if (days.isWorking(walked)) left--;
            }
            expect(days.offset(day, n)).toBe(walked);
            expect(Math.abs(days.count(day, walked))).toBeGreaterThanOrEqual(Math.abs(n) - 1);
          }
        }
      ),
      { numRuns: 200 }
    );
  });

  it('answers the same however the window grew', () => {
    fc.assert(
      fc.property(anyCalendar, fc.array(anyDay, { minLength: 2, maxLength: 6 }), (calendar, asks) => {
        const grown = new WorkingDays(calendar, UTC);
        for (const day of asks)
          expect(grown.offset(day, 25)).toBe(new WorkingDays(calendar, UTC).offset(day, 25));
      }),
      { numRuns: 100 }
    );
  });
});

describe('days', () => {
  it('are written and read back unchanged over the whole range', () => {
    for (let day = FIRST_DAY; day <= LAST_DAY; day += 13) expect(parseDay(formatDay(day))).toBe(day);
  });

  it('agree with the calendar of the runtime', () => {
    for (let day = FIRST_DAY; day <= LAST_DAY; day += 17) {
      const { year, month, dayOfMonth } = partsOfDay(day);
      expect(new Date(day * 86_400_000).toISOString().slice(0, 10)).toBe(formatDay(day));
      expect(dayFromParts(year, month, dayOfMonth)).toBe(day);
    }
  });
});
