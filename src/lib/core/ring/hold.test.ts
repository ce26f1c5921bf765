import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar, parseIntervals } from '../calendar/spec.ts';
import { formatZoned, instantOnWall } from '../time/instant.ts';
import { parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { holdUntilReach, nextOpening, type Reach } from './hold.ts';

const HALIFAX = zoneNamed('America/Halifax');
const NINE_TO_FIVE = ['09:00-17:00'];
const MON_FRI = new CompiledCalendar(
  parseCalendar({
    week: { mon: NINE_TO_FIVE, tue: NINE_TO_FIVE, wed: NINE_TO_FIVE, thu: NINE_TO_FIVE, fri: NINE_TO_FIVE }
  }),
  HALIFAX
);
const WORKING: Reach = { kind: 'working', spans: MON_FRI.spans };
const quiet = (...texts: string[]): Reach => ({ kind: 'quiet', zone: HALIFAX, quiet: parseIntervals(texts) });
const at = (date: string, minute: number) => instantOnWall(parseDay(date), minute, HALIFAX);
const written = (instant: number) => formatZoned(instant, HALIFAX).slice(0, 16);

describe('hold', () => {
  it('waits over a weekend in which the clocks change', () => {
    // Halifax puts its clocks forward on 8 March 2026 (tz database): Friday 18:00 to Monday 09:00 is 62 hours there.
    const from = at('2026-03-06', 18 * 60);
    const to = holdUntilReach(from, WORKING);
    expect([written(to), (to - from) / 3_600_000]).toEqual(['2026-03-09T09:00', 62]);
  });

  it('follows quiet hours that touch each other, and those that cross midnight', () => {
    const reach = quiet('12:00-13:00', '13:00-14:00', '22:00-07:00');
    expect(written(holdUntilReach(at('2026-03-05', 12 * 60 + 30), reach))).toBe('2026-03-05T14:00');
    expect(written(holdUntilReach(at('2026-03-05', 30), reach))).toBe('2026-03-05T07:00');
    // Quiet in the night of the clock change: one hour shorter, and it still ends at 07:00 on the wall.
    expect(written(holdUntilReach(at('2026-03-07', 23 * 60), reach))).toBe('2026-03-08T07:00');
  });

  it('gives up where nobody is ever reached', () => {
    const closed = new CompiledCalendar(parseCalendar({ week: {} }), HALIFAX);
    expect(holdUntilReach(0, { kind: 'working', spans: closed.spans })).toBeNaN();
    expect(holdUntilReach(0, quiet('00:00-12:00', '12:00-00:00'))).toBeNaN();
  });

  it('never moves back, and holding twice changes nothing', () => {
    const instants = fc.integer({ min: at('2026-01-01', 0) / 60_000, max: at('2026-12-31', 0) / 60_000 });
    fc.assert(
      fc.property(instants, fc.constantFrom(WORKING, quiet('22:00-07:00')), (minute, reach) => {
        const to = holdUntilReach(minute * 60_000, reach);
        expect(to).toBeGreaterThanOrEqual(minute * 60_000);
        expect(holdUntilReach(to, reach)).toBe(to);
      })
    );
  });
});

describe('the next opening', () => {
  it('is after now, even at an opening', () => {
    expect(written(nextOpening(at('2026-03-05', 9 * 60), WORKING, MON_FRI.spans))).toBe('2026-03-06T09:00');
    expect(written(nextOpening(at('2026-03-05', 8 * 60), WORKING, MON_FRI.spans))).toBe('2026-03-05T09:00');
  });

  it('is that of the working hours where one may be told at any time', () => {
    expect(written(nextOpening(at('2026-03-06', 18 * 60), { kind: 'any' }, MON_FRI.spans))).toBe(
      '2026-03-09T09:00'
    );
  });

  it('is the end of quiet where quiet hours decide', () => {
    expect(written(nextOpening(at('2026-03-05', 12 * 60), quiet('22:00-07:00'), MON_FRI.spans))).toBe(
      '2026-03-06T07:00'
    );
  });
});
