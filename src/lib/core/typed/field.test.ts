import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { formatDay, parseDay, weekdayOf } from '../time/day.ts';
import { longDay, shortDayAndYear } from '../time/format.ts';
import { zoneNamed } from '../time/zone.ts';
import { DayList } from './day-list.ts';
import { readDateField, type FieldDays } from './field.ts';

/** Thursday 5 March 2026 in a Monday-to-Friday week; Tuesday the 10th is closed. What the words mean is common practice, no source. */
const TODAY = parseDay('2026-03-05');
const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:00']]));
const calendar = new CompiledCalendar(
  parseCalendar({ week: WEEK, closed: [{ date: '2026-03-10', name: 'Harbour day' }] }),
  zoneNamed('Europe/Lisbon')
);
const FROM = parseDay('2025-01-01');
const UNTIL = parseDay('2028-01-01');
const listed = Array.from({ length: UNTIL - FROM }, (_, i) =>
  calendar.days.isWorking(FROM + i) ? '1' : '0'
).join('');
const FIELD: FieldDays = {
  today: TODAY,
  list: new DayList(FROM, listed),
  weekStart: 0,
  nameOf: (day) => calendar.holidayName(day)
};
const read = (text: string, field = FIELD) => readDateField(text, field);

describe('a date field', () => {
  it.each([
    ['fri', 'Friday 6 March 2026 · tomorrow'],
    ['5 mar', 'Thursday 5 March 2026 · today'],
    ['mar 6', 'Friday 6 March 2026 · tomorrow'],
    ['the 9th of march', 'Monday 9 March 2026 · in 2 working days'],
    ['4th', '“4th” is not a date. Write a day, like 5 mar, fri, in 5 working days or 2026-03-05.'],
    ['the 4th', 'Saturday 4 April 2026 · in 30 days · a closed day'],
    ['the 31st', 'Tuesday 31 March 2026 · in 17 working days'],
    ['in 5 working days', 'Friday 13 March 2026 · in 5 working days'],
    ['10.3.', 'Tuesday 10 March 2026 · in 5 days · closed: Harbour day'],
    ['29 feb', 'Tuesday 29 February 2028 · in 726 days'],
    ['29 feb 2026', '29 feb 2026 is not a date: February 2026 has 28 days.'],
    ['31.02.', '31.02. is not a date: February 2026 has 28 days.'],
    ['1899-12-31', '1899-12-31 is outside the dates handled here, 1900-01-01 to 2200-12-31.'],
    ['Thu 5 Mar 2026', 'Thursday 5 March 2026 · today'],
    ['Fri 5 Mar 2026', 'Fri 5 Mar 2026 is not a date: 5 March 2026 is a Thursday.'],
    ['wed', 'Wednesday 11 March 2026 · in 3 working days'],
    ['2026-03-03', 'Tuesday 3 March 2026 · 2 working days ago'],
    ['end of month', 'Tuesday 31 March 2026 · in 17 working days'],
    ['fri 3pm', '“fri 3pm” has a time of day in it. Write only the date here.'],
    ['in 2000 working days', 'Working days cannot be counted as far as 2028-01-01. Write the date itself.'],
    ['soon', '“soon” is not a date. Write a day, like 5 mar, fri, in 5 working days or 2026-03-05.'],
    ['🐚', '“🐚” is not a date. Write a day, like 5 mar, fri, in 5 working days or 2026-03-05.']
  ])('“%s” is read back, or refused with why', (text, words) => {
    const reading = read(text);
    expect(reading.kind === 'fault' ? reading.why : 'words' in reading ? reading.words : reading.kind).toBe(
      words
    );
  });

  it('asks where it can mean several days', () => {
    const reading = read('04/05');
    expect(reading.kind === 'several' && reading.days.map(({ day }) => formatDay(day))).toEqual([
      '2026-05-04',
      '2026-04-05'
    ]);
  });

  it('waits for the working days where they are not there yet, and for nothing else', () => {
    const without = { ...FIELD, list: null };
    expect(read('in 5 working days', without)).toEqual({ kind: 'waiting' });
    expect(read('fri', without)).toMatchObject({ kind: 'day', words: 'Friday 6 March 2026 · tomorrow' });
    expect(read('the 9th', without)).toMatchObject({ words: 'Monday 9 March 2026 · in 4 days' });
    expect(read('  ')).toEqual({ kind: 'empty' });
  });

  it('never takes longer than a moment over a long text, and refuses it', () => {
    expect(read('5 '.repeat(5_000)).kind).toBe('fault');
    expect(read(' '.repeat(5_000) + 'x').kind).toBe('fault');
  });

  it('reads every date as it is written on the screens', () => {
    fc.assert(
      fc.property(fc.integer({ min: parseDay('1900-01-01'), max: parseDay('2200-12-31') }), (day) => {
        for (const text of [formatDay(day), longDay(day), shortDayAndYear(day)])
          expect(read(text)).toMatchObject({ kind: 'day', day });
      })
    );
  });
});

describe('a list of working days', () => {
  it('counts as the calendar that it was made of', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: FROM + 200, max: UNTIL - 400 }),
        fc.integer({ min: -100, max: 100 }),
        (day, n) => {
          expect(FIELD.list!.offset(day, n)).toBe(calendar.days.offset(day, n));
          expect(FIELD.list!.count(day, day + 100)).toBe(calendar.days.count(day, day + 100));
          expect(FIELD.list!.isWorking(day)).toBe(weekdayOf(day) < 5 && calendar.days.isWorking(day));
        }
      )
    );
  });
});
