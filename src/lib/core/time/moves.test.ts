import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MS_PER_DAY, parseDay } from './day.ts';
import { formatZoned, instantOnWall, parseInstant } from './instant.ts';
import { zoneOfMoves } from './moves.ts';
import { zoneNamed } from './zone.ts';

const at = (zone: ReturnType<typeof zoneNamed>, date: string, hour: number) =>
  formatZoned(instantOnWall(parseDay(date), hour * 60, zone), zone);

describe('the zone of somebody who moves', () => {
  it('is that of the place they are in, on each date as written', () => {
    const zone = zoneOfMoves('Asia/Kolkata', [{ from: parseDay('2026-04-01'), zone: 'America/Halifax' }]);
    expect(at(zone, '2026-03-31', 8)).toBe('2026-03-31T08:00:00+05:30[Asia/Kolkata]');
    expect(at(zone, '2026-04-01', 8)).toBe('2026-04-01T08:00:00-03:00[America/Halifax]');
    expect(zone.dayOf(parseInstant('2026-04-01T02:59Z'))).toBe(parseDay('2026-04-01'));
    expect(zone.nameAt(parseInstant('2026-04-01T02:59Z'))).toBe('Asia/Kolkata');
    expect(zone.nameAt(parseInstant('2026-04-01T03:00Z'))).toBe('America/Halifax');
  });

  it('skips what a move eastward cuts off, and ends the day before where the new one begins', () => {
    const zone = zoneOfMoves('America/Halifax', [{ from: parseDay('2026-04-01'), zone: 'Asia/Kolkata' }]);
    expect(at(zone, '2026-04-01', 0)).toBe('2026-04-01T00:00:00+05:30[Asia/Kolkata]');
    expect(zone.endOfDay(parseDay('2026-03-31'))).toBe(parseInstant('2026-03-31T18:30Z'));
    // 21:00 in Halifax is after the first instant of the next date in Kolkata: it is told at that very instant all the same.
    expect(instantOnWall(parseDay('2026-03-31'), 21 * 60, zone)).toBe(parseInstant('2026-04-01T00:00Z'));
  });

  it('keeps the clock changes of each place while they are there', () => {
    const zone = zoneOfMoves('Europe/Lisbon', [
      { from: parseDay('2026-05-01'), zone: 'Asia/Muscat' },
      { from: parseDay('2026-09-01'), zone: 'Europe/Lisbon' }
    ]);
    const days = ['2026-03-28', '2026-03-29', '2026-05-01', '2026-09-01', '2026-10-25', '2026-10-26'];
    expect(days.map((date) => at(zone, date, 9).slice(16, 25))).toEqual([
      ':00+00:00',
      ':00+01:00',
      ':00+04:00',
      ':00+01:00',
      ':00+00:00',
      ':00+00:00'
    ]);
  });

  it('agrees with the zone of the place wherever no move is near', () => {
    const places = ['Europe/Lisbon', 'America/Halifax', 'Asia/Muscat', 'Australia/Hobart', 'Pacific/Chatham'];
    fc.assert(
      fc.property(
        fc.constantFrom(...places),
        fc.constantFrom(...places),
        fc.integer({ min: parseDay('2000-01-01'), max: parseDay('2060-01-01') }),
        fc.integer({ min: -4_000, max: 4_000 }),
        fc.integer({ min: 0, max: 1439 }),
        (from, to, moveDay, offset, minute) => {
          fc.pre(Math.abs(offset) > 2);
          const zone = zoneOfMoves(from, [{ from: moveDay, zone: to }]);
          const there = zoneNamed(offset < 0 ? from : to);
          const local = (moveDay + offset) * MS_PER_DAY + minute * 60_000;
          expect(zone.instantOf(local)).toBe(there.instantOf(local));
          expect(zone.localOf(there.instantOf(local))).toBe(there.localOf(there.instantOf(local)));
        }
      ),
      { numRuns: 400 }
    );
  });
});
