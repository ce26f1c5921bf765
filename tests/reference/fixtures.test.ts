import { readFileSync } from 'node:fs';
import { Temporal } from '@js-temporal/polyfill';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../../src/lib/core/calendar/compiled.ts';
import { WEEKDAYS, parseCalendar, type WeekSpec } from '../../src/lib/core/calendar/spec.ts';
import { expandCase } from '../../src/lib/core/ringtime/expand.ts';
import { formatDay, parseDay } from '../../src/lib/core/time/day.ts';
import { instantOnWall, parseMoment } from '../../src/lib/core/time/instant.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';

/**
 * Against Python's zoneinfo, numpy, pandas and dateutil. The files are made by scripts/references/make.py, which says at its head how
 * conventions are mapped; each names the versions that made it.
 */
function fixture<T>(name: string): T {
  return JSON.parse(readFileSync(new URL(`fixtures/${name}.json`, import.meta.url), 'utf8')) as T;
}
const UTC = zoneNamed('UTC');
const weekOf = (days: readonly boolean[], hours: string): WeekSpec =>
  Object.fromEntries(WEEKDAYS.filter((_, i) => days[i]).map((day) => [day, [hours]]));

describe('zoneinfo: wall times around every clock change of 40 zones, 2024 to 2030', () => {
  const { zones } = fixture<{ zones: Record<string, [number, number][]> }>('zoneinfo');
  const disagreeing = new Set<string>();

  it.each(Object.entries(zones))('%s, by Temporal too', (name, pairs) => {
    const zone = zoneNamed(name);
    for (const [local, instant] of pairs) {
      const ours = zone.instantOf(local * 60_000) / 60_000;
      // ECMAScript Temporal semantics by an independent implementation over the same tz database as ours.
      const plain = Temporal.Instant.fromEpochMilliseconds(local * 60_000)
        .toZonedDateTimeISO('UTC')
        .toPlainDateTime();
      const theirs = plain.toZonedDateTime(name).epochMilliseconds / 60_000;
      expect([name, local, ours]).toEqual([name, local, theirs]);
      if (ours !== instant) disagreeing.add(name);
    }
    expect(pairs.length % 11).toBe(0);
  });

  it('by zoneinfo everywhere but where its tz database knows another rule', () => {
    // The two runtimes bring their own tz databases; a zone whose government decided between the two releases may differ.
    expect(disagreeing.size).toBeLessThanOrEqual(2);
  });
});

describe('numpy busday_offset and busday_count', () => {
  const { calendars } = fixture<{
    calendars: {
      mask: string;
      closed: string[];
      offsets: [string, number, string][];
      counts: [string, string, number][];
    }[];
  }>('numpy');

  it.each(calendars)('week $mask', ({ mask, closed, offsets, counts }) => {
    const week = weekOf(
      [...mask].map((open) => open === '1'),
      '09:00-17:00'
    );
    const { days } = new CompiledCalendar(parseCalendar({ week, closed }), UTC);
    for (const [from, n, expected] of offsets)
      expect([from, n, formatDay(days.offset(parseDay(from), n))]).toEqual([from, n, expected]);
    for (const [from, to, expected] of counts)
      expect(days.count(parseDay(from), parseDay(to))).toBe(expected);
  });
});

describe('pandas', () => {
  const { closed, sums, federal } = fixture<{
    closed: string[];
    sums: [string, string, string, number, string][];
    federal: string[];
  }>('pandas');

  it('business hours, forward', () => {
    const calendars = new Map<string, CompiledCalendar>();
    for (const [open, close, from, hours, expected] of sums) {
      const key = `${open}-${close}`;
      let calendar = calendars.get(key);
      if (!calendar) {
        const week = weekOf([true, true, true, true, true, false, false], key);
        calendars.set(key, (calendar = new CompiledCalendar(parseCalendar({ week, closed }), UTC)));
      }
      const { day, minute } = parseMoment(from, UTC);
      const sum = calendar.spans.offset(instantOnWall(day, minute!, UTC), hours * 3_600_000);
      expect([from, hours, new Date(sum).toISOString().slice(0, 16)]).toEqual([from, hours, expected]);
    }
  });

  it('US federal holidays as 5 U.S.C. 6103 places them, on the days on which they are observed', () => {
    // The rule of each holiday, as our own recurrence rules write it; from 2022 on, when all eleven are kept.
    const rules = [
      'FREQ=YEARLY;BYMONTH=1;BYMONTHDAY=1',
      'FREQ=YEARLY;BYMONTH=1;BYDAY=3MO',
      'FREQ=YEARLY;BYMONTH=2;BYDAY=3MO',
      'FREQ=YEARLY;BYMONTH=5;BYDAY=-1MO',
      'FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=19',
      'FREQ=YEARLY;BYMONTH=7;BYMONTHDAY=4',
      'FREQ=YEARLY;BYMONTH=9;BYDAY=1MO',
      'FREQ=YEARLY;BYMONTH=10;BYDAY=2MO',
      'FREQ=YEARLY;BYMONTH=11;BYMONTHDAY=11',
      'FREQ=YEARLY;BYMONTH=11;BYDAY=4TH',
      'FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=25'
    ];
    const weekend = new CompiledCalendar(
      parseCalendar({ week: weekOf([true, true, true, true, true, false, false], '09:00-17:00') }),
      UTC
    );
    const observed = rules
      .flatMap((rrule) => {
        const { occurrences } = expandCase({ rrule, start: '2022-01-01', to: '2035-12-01' }) as {
          occurrences: string[];
        };
        return occurrences.map((text) => parseDay(text.slice(0, 10)));
      })
      // A Saturday is kept on the Friday before, a Sunday on the Monday after: the nearest working day.
      .map((day) => (weekend.days.isWorking(day) ? day : nearestOf(day, weekend)))
      .map(formatDay)
      .filter((date) => date >= '2022-01-01' && date < '2035-12-01')
      .sort();
    expect(observed).toEqual(federal.filter((date) => date >= '2022-01-01' && date < '2035-12-01'));
  });
});

function nearestOf(day: number, { days }: CompiledCalendar): number {
  const [earlier, later] = [days.offset(day, -1), days.offset(day, 1)];
  return day - earlier < later - day ? earlier : later;
}

describe('dateutil: random rules', () => {
  const { cases } = fixture<{ cases: [rrule: string, start: string, expected: string[]][] }>('dateutil');

  it.each([...Array(8).keys()])('part %i', (part) => {
    for (const [rrule, start, expected] of cases.filter((_, i) => i % 8 === part)) {
      const { occurrences } = expandCase({ rrule, start, count: 12, to: '2091-01-01' }) as {
        occurrences: string[];
      };
      expect({ rrule, start, found: occurrences.map((text) => text.slice(0, 16)) }).toEqual({
        rrule,
        start,
        found: expected
      });
    }
  });
});

describe('ISO 8601 weeks', () => {
  it('number as Temporal numbers them: the Mondays of the first, the 26th and the last week of 60 years', () => {
    for (let year = 1990; year < 2050; year++) {
      const { occurrences } = expandCase({
        rrule: 'FREQ=YEARLY;BYWEEKNO=1,26,-1;BYDAY=MO',
        start: `${year - 1}-12-28`,
        count: 3
      }) as { occurrences: string[] };
      for (const text of occurrences) {
        const date = Temporal.PlainDate.from(text.slice(0, 10));
        const next = date.add({ weeks: 1 });
        expect(date.dayOfWeek).toBe(1);
        // The week is the first, the 26th, or followed by a first one.
        expect([1, 26].includes(date.weekOfYear!) || next.weekOfYear === 1).toBe(true);
      }
    }
  });
});
