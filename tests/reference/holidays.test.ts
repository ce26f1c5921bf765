import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { formatDay, dayFromParts, parseDay, weekdayOf } from '../../src/lib/core/time/day.ts';
import { countries, publicHolidays, regionsOf } from '../../src/lib/server/in-out/read/holidays.ts';

/** The bundled set of public holidays against what others publish. */
const isWeekday = (date: string) => weekdayOf(parseDay(date)) < 5;
const datesOf = (region: string, from: number, to: number) =>
  publicHolidays(region, from, to)
    .map(({ date }) => date)
    .filter((date) => date.slice(0, 4) >= String(from) && date.slice(0, 4) <= String(to));

/** Easter Sunday by the anonymous Gregorian computus, as printed by Meeus, Astronomical Algorithms (1991), chapter 8; from memory. */
function easter(year: number): number {
  const [a, b, c] = [year % 19, Math.floor(year / 100), year % 100];
  const [d, e] = [Math.floor(b / 4), b % 4];
  const g = Math.floor((b - Math.floor((b + 8) / 25) + 1) / 3);
  const h = (19 * a + b - d - g + 15) % 30;
  const l = (32 + 2 * e + 2 * Math.floor(c / 4) - h - (c % 4)) % 7;
  const m = Math.floor((a + 11 * h + 22 * l) / 451);
  const sum = h + l - 7 * m + 114;
  return dayFromParts(year, Math.floor(sum / 31), (sum % 31) + 1);
}

describe('the bundled holidays', () => {
  it('of the United States are those of 5 U.S.C. 6103 as pandas observes them, 2015 to 2035, Veterans Day on a weekend apart', () => {
    const { federal } = JSON.parse(
      readFileSync(new URL('./fixtures/pandas.json', import.meta.url), 'utf8')
    ) as {
      federal: string[];
    };
    const ours = new Set(datesOf('US', 2015, 2035).filter(isWeekday));
    const theirs = new Set(federal.filter((date) => date >= '2015-01-01' && date <= '2035-12-31'));
    const missing = [...theirs].filter((date) => !ours.has(date));
    const more = [...ours].filter((date) => !theirs.has(date));
    // The set keeps 11 November on its own date when that is a weekend; federal offices keep the weekday beside it.
    expect(missing.every((date) => /-11-1[02]$/.test(date))).toBe(true);
    expect(missing).toEqual([
      '2017-11-10',
      '2018-11-12',
      '2023-11-10',
      '2028-11-10',
      '2029-11-12',
      '2034-11-10',
      '2035-11-12'
    ]);
    // 1 January 2022 and 2028 were Saturdays: kept on the Friday before, in the year before; pandas gives them too.
    expect(more).toEqual([]);
  });

  it('of Germany hold every TARGET closing day of 2015 to 2035 (ECB press release of 14 December 2000)', () => {
    const own = new Set(datesOf('DE', 2015, 2035));
    const target: string[] = [];
    for (let year = 2015; year <= 2035; year++) {
      const sunday = easter(year);
      target.push(formatDay(sunday - 2), formatDay(sunday + 1));
      for (const monthDay of ['01-01', '05-01', '12-25', '12-26']) target.push(`${year}-${monthDay}`);
      // What Germany keeps besides: Ascension, Whit Monday, 3 October; 31 October once, in 2017.
      for (const date of [formatDay(sunday + 39), formatDay(sunday + 50), `${year}-10-03`]) own.delete(date);
    }
    own.delete('2017-10-31');
    expect([...own].sort()).toEqual([...new Set(target)].sort());
  });

  it('know countries and their parts, and refuse what is none', () => {
    expect(countries().length).toBeGreaterThan(150);
    expect(regionsOf('CA').find(({ code }) => code === 'CA-NS')?.name).toBe('Nova Scotia');
    expect(regionsOf('OM')).toEqual([]);
    expect(() => publicHolidays('XX', 2026, 2026)).toThrow(
      expect.objectContaining({ code: 'region-unknown' })
    );
  });
});
