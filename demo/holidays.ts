import Holidays from 'date-holidays';
import { MS_PER_DAY, dayFromParts, formatDay } from '../src/lib/core/time/day.ts';

/** A public holiday: a date and the name it goes by. */
export interface Holiday {
  date: string;
  name: string;
}

/**
 * The public holidays of a country or region in some years, from the bundled data set, each date once.
 * @param region `PT`, or `CA-NS` for a part of a country
 */
export function publicHolidays(region: string, fromYear: number, toYear: number): Holiday[] {
  if (region === 'OM') return omanHolidays(fromYear, toYear);
  const [country = '', state] = region.split('-');
  const source = state ? new Holidays(country, state) : new Holidays(country);
  const byDate = new Map<string, string>();
  for (let year = fromYear; year <= toYear; year++) {
    for (const { type, date, name, start, end } of source.getHolidays(year)) {
      if (type !== 'public') continue;
      // A holiday of several days is listed once, with its end.
      const days = Math.max(1, Math.round((end.getTime() - start.getTime()) / 86_400_000));
      for (let i = 0; i < days; i++) {
        const day = new Date(Date.parse(`${date.slice(0, 10)}T00:00Z`) + i * 86_400_000)
          .toISOString()
          .slice(0, 10);
        if (!byDate.has(day)) byDate.set(day, name);
      }
    }
  }
  return [...byDate].map(([date, name]) => ({ date, name })).sort((a, b) => (a.date < b.date ? -1 : 1));
}

/**
 * Oman is not in the bundled set. Its fixed days are 11 January (accession) and 20 and 21 November (national days); the
 * others follow the Islamic calendar, taken as Umm al-Qura, which an announcement may move by a day. From memory.
 */
const OMAN_FIXED = [
  { monthDay: '01-11', name: 'Accession Day' },
  { monthDay: '11-20', name: 'National Day' },
  { monthDay: '11-21', name: 'National Day' }
];
const OMAN_ISLAMIC: Record<string, string> = {
  '1/1': 'Islamic New Year',
  '3/12': 'Prophet’s Birthday',
  '7/27': 'Isra and Miraj',
  '10/1': 'Eid al-Fitr',
  '10/2': 'Eid al-Fitr',
  '10/3': 'Eid al-Fitr',
  '12/9': 'Eid al-Adha',
  '12/10': 'Eid al-Adha',
  '12/11': 'Eid al-Adha',
  '12/12': 'Eid al-Adha'
};

function omanHolidays(fromYear: number, toYear: number): Holiday[] {
  const islamic = new Intl.DateTimeFormat('en-u-ca-islamic-umalqura', {
    month: 'numeric',
    day: 'numeric',
    timeZone: 'UTC'
  });
  const found: Holiday[] = [];
  for (let day = dayFromParts(fromYear, 1, 1); day < dayFromParts(toYear + 1, 1, 1); day++) {
    const date = formatDay(day);
    const parts = islamic.formatToParts(day * MS_PER_DAY);
    const part = (type: string) => parts.find((one) => one.type === type)?.value;
    const fixed = OMAN_FIXED.find(({ monthDay }) => date.endsWith(monthDay));
    const name = fixed?.name ?? OMAN_ISLAMIC[`${part('month')}/${part('day')}`];
    if (name) found.push({ date, name });
  }
  return found;
}
