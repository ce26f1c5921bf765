import { MS_PER_DAY, dayFromParts, formatDay } from '../src/lib/core/time/day.ts';

/** A public holiday: a date and the name it goes by. */
export interface Holiday {
  date: string;
  name: string;
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

export function omanHolidays(fromYear: number, toYear: number): Holiday[] {
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
