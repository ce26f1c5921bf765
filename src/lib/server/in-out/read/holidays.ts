import Holidays from 'date-holidays';
import { CodedError } from '../../../core/errors.ts';
import { MS_PER_DAY, formatDay, parseDay } from '../../../core/time/day.ts';

/** A public holiday: a date and the name it goes by. */
export interface Holiday {
  date: string;
  name: string;
}

/** A country or a part of one, as it is chosen. */
export interface Region {
  /** `PT`, `CA-NS` */
  code: string;
  name: string;
}

/** Every country of the bundled set, by name. */
export function countries(): Region[] {
  return named(new Holidays().getCountries('en'));
}

/** The parts of a country that have holidays of their own; none for many. */
export function regionsOf(country: string): Region[] {
  const states = new Holidays().getStates(country, 'en') as Record<string, string> | undefined;
  return named(states ?? {}).map(({ code, name }) => ({ code: `${country}-${code}`, name }));
}

/**
 * The public holidays of a country or region in some years, from the bundled data set, each date once. Only public ones: bank, school
 * and optional days close nothing by themselves.
 * @param region `PT`, or `CA-NS` for a part of a country
 * @throws CodedError `region-unknown`
 */
export function publicHolidays(region: string, fromYear: number, toYear: number): Holiday[] {
  const [country = '', state] = region.split('-');
  if (!(country in new Holidays().getCountries())) throw new CodedError('region-unknown', { region });
  const source = state ? new Holidays(country, state) : new Holidays(country);
  const byDate = new Map<string, string>();
  for (let year = fromYear; year <= toYear; year++) {
    for (const { type, date, name, start, end } of source.getHolidays(year)) {
      if (type !== 'public') continue;
      // A holiday of several days is given once, with its end.
      const days = Math.max(1, Math.round((end.getTime() - start.getTime()) / MS_PER_DAY));
      const first = parseDay(date.slice(0, 10));
      for (let i = 0; i < days; i++) {
        const day = formatDay(first + i);
        if (!byDate.has(day)) byDate.set(day, name);
      }
    }
  }
  return [...byDate].map(([date, name]) => ({ date, name })).sort((a, b) => (a.date < b.date ? -1 : 1));
}

function named(names: Readonly<Record<string, string>>): Region[] {
  return Object.entries(names)
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}
