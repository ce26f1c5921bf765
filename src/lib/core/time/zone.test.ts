import { Temporal } from '@js-temporal/polyfill';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MS_PER_DAY, parseDay } from './day.ts';
import { zoneNamed } from './zone.ts';

/**
 * ECMAScript Temporal semantics by an independent implementation, @js-temporal/polyfill. Both read the runtime's
 * tzdata, so what is checked here is our tables and searches, not the data.
 */
const ZONES = [
  'Europe/Lisbon',
  'America/Halifax',
  'Asia/Muscat',
  'Asia/Kolkata',
  'Australia/Hobart',
  'America/New_York',
  'Australia/Lord_Howe',
  'Africa/Cairo',
  'Africa/Casablanca',
  'Pacific/Apia',
  'Pacific/Chatham',
  'America/Sao_Paulo'
];

const epoch = (day: string) => parseDay(day) * MS_PER_DAY;
const localMinutes = fc.integer({ min: epoch('1990-01-01') / 60_000, max: epoch('2040-12-31') / 60_000 });

function plain(local: number): Temporal.PlainDateTime {
  return Temporal.Instant.fromEpochMilliseconds(local).toZonedDateTimeISO('UTC').toPlainDateTime();
}

describe.each(ZONES)('zone %s', (name) => {
  const zone = zoneNamed(name);

  it('maps random wall times and instants as Temporal does', () => {
    fc.assert(
      fc.property(localMinutes, (minutes) => {
        const local = minutes * 60_000;
        const expected = plain(local).toZonedDateTime(name, {
          disambiguation: 'compatible'
        }).epochMilliseconds;
        expect(zone.instantOf(local)).toBe(expected);
        const offset =
          Temporal.Instant.fromEpochMilliseconds(local).toZonedDateTimeISO(name).offsetNanoseconds / 1e6;
        expect(zone.offsetAt(local)).toBe(offset);
      }),
      { numRuns: 150 }
    );
  });

  it('maps every wall time around its clock changes as Temporal does', () => {
    let at = Temporal.Instant.from('2024-01-01T00:00Z').toZonedDateTimeISO(name);
    for (;;) {
      const next = at.getTimeZoneTransition('next');
      if (!next || next.epochMilliseconds > epoch('2030-12-31')) break;
      at = next;
      const wall = next.epochMilliseconds + next.offsetNanoseconds / 1e6;
      for (let local = wall - 3 * 3_600_000; local <= wall + 3 * 3_600_000; local += 15 * 60_000) {
        const expected = plain(local).toZonedDateTime(name, {
          disambiguation: 'compatible'
        }).epochMilliseconds;
        expect(zone.instantOf(local)).toBe(expected);
      }
    }
  });

  it('starts its days as Temporal does', () => {
    for (let day = parseDay('2009-01-01'); day < parseDay('2028-01-01'); day += 1) {
      const expected = plain(day * MS_PER_DAY)
        .toPlainDate()
        .toZonedDateTime(name).epochMilliseconds;
      if (zone.startOfDay(day) !== expected) expect([day, zone.startOfDay(day)]).toEqual([day, expected]);
    }
  });
});

describe('skipped dates', () => {
  it('are found where the tz database has them', () => {
    // tz database, file australasia: Samoa and Tokelau left out 30 December 2011, Kiritimati 31 December 1994.
    const skipped = (zone: string, year: number) =>
      zoneNamed(zone).skippedDays(parseDay(`${year}-01-01`), parseDay(`${year + 1}-01-01`));
    expect(skipped('Pacific/Apia', 2011)).toEqual([parseDay('2011-12-30')]);
    expect(skipped('Pacific/Kiritimati', 1994)).toEqual([parseDay('1994-12-31')]);
    expect(skipped('Europe/Lisbon', 2011)).toEqual([]);
  });
});
