import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../../../core/calendar/compiled.ts';
import { parseCalendar } from '../../../core/calendar/spec.ts';
import { formatDay } from '../../../core/time/day.ts';
import { zoneNamed } from '../../../core/time/zone.ts';
import { nameOfLine, readLine, unclearOf } from './line.ts';
import { weekStartOf } from '../../../core/ring/week-spans.ts';
import type { Typist } from '../../../core/typed/date.ts';

/**
 * Phrases as people type them, each with what it means at one fixed moment, Thursday 5 March 2026 at 20:30Z. In Lisbon that is
 * Thursday evening; in Kochi it is Friday already. What the words mean is common practice, no source.
 */
const NOW = Date.parse('2026-03-05T20:30:00Z');
const week = (days: readonly string[]) => Object.fromEntries(days.map((day) => [day, ['09:00-17:00']]));
const typist = (zone: string, days: readonly string[], closed: string[] = []): Typist => {
  const calendar = new CompiledCalendar(parseCalendar({ week: week(days), closed }), zoneNamed(zone));
  return {
    wall: calendar.zone.localOf(NOW),
    days: calendar.days,
    weekStart: weekStartOf(calendar.calendar.weeks[0]!.week)
  };
};
const LISBON = typist('Europe/Lisbon', ['mon', 'tue', 'wed', 'thu', 'fri'], ['2026-03-10']);
const KOCHI = typist('Asia/Kolkata', ['mon', 'tue', 'wed', 'thu', 'fri', 'sat']);

const NAMES = {
  people: [
    { id: 1, name: 'Inês Moura' },
    { id: 2, name: 'Dale Comeau' },
    { id: 3, name: 'Dale Marr' },
    { id: 4, name: 'Huda Balushi' }
  ],
  projects: [
    { id: 10, name: 'Permit renewals' },
    { id: 11, name: 'Winter buoy service' }
  ],
  selfId: 1
};

/** The name with all that was not understood in it. */
const nameOf = (text: string) => nameOfLine(readLine(text, LISBON, NAMES), () => true);

const due = (text: string, who: Typist) => {
  const line = readLine(text, who, NAMES);
  return line.due?.choices.map(({ day, time }) => `${formatDay(day)}${time ? ` ${time}` : ''}`) ?? [];
};

describe('dates as people type them', () => {
  it.each([
    ['today', '2026-03-05', '2026-03-06'],
    ['tomorrow', '2026-03-06', '2026-03-07'],
    ['the day after tomorrow', '2026-03-07', '2026-03-08'],
    ['tomorrow 9am', '2026-03-06 09:00', '2026-03-07 09:00'],
    ['tomorrow at 14:30', '2026-03-06 14:30', '2026-03-07 14:30'],
    ['mon', '2026-03-09', '2026-03-09'],
    ['on wednesday', '2026-03-11', '2026-03-11'],
    ['sat noon', '2026-03-07 12:00', '2026-03-07 12:00'],
    ['mon 3pm', '2026-03-09 15:00', '2026-03-09 15:00'],
    ['3pm mon', '2026-03-09 15:00', '2026-03-09 15:00'],
    ['by tuesday 17:00', '2026-03-10 17:00', '2026-03-10 17:00'],
    ['in 3 days', '2026-03-08', '2026-03-09'],
    ['in two weeks', '2026-03-19', '2026-03-20'],
    ['in a month', '2026-04-05', '2026-04-06'],
    ['in a fortnight', '2026-03-19', '2026-03-20'],
    // Tuesday 10 March is closed in Lisbon, and Saturday is a working day in Kochi.
    ['in 5 working days', '2026-03-13', '2026-03-12'],
    ['in 5 working days at 09:00', '2026-03-13 09:00', '2026-03-12 09:00'],
    ['2 working days from now', '2026-03-09', '2026-03-09'],
    ['next working day', '2026-03-06', '2026-03-07'],
    ['end of the month', '2026-03-31', '2026-03-31'],
    ['end of next month', '2026-04-30', '2026-04-30'],
    ['last working day of the month', '2026-03-31', '2026-03-31'],
    ['last working day of next month', '2026-04-30', '2026-04-30'],
    // Friday is the last working day of Lisbon's week, Saturday of Kochi's.
    ['end of the week', '2026-03-06', '2026-03-07'],
    ['next week', '2026-03-09', '2026-03-09'],
    ['2026-03-20', '2026-03-20', '2026-03-20'],
    ['2026-03-20 16:00', '2026-03-20 16:00', '2026-03-20 16:00'],
    ['20.3.', '2026-03-20', '2026-03-20'],
    ['20.3.2027', '2027-03-20', '2027-03-20'],
    ['20/3', '2026-03-20', '2026-03-20'],
    // A day that is past this year is next year's.
    ['1.2.', '2027-02-01', '2027-02-01'],
    ['5 april', '2026-04-05', '2026-04-05'],
    ['april 5 at 10:15', '2026-04-05 10:15', '2026-04-05 10:15'],
    ['12 march 2027', '2027-03-12', '2027-03-12'],
    ['11pm', '2026-03-05 23:00', '2026-03-06 23:00'],
    // The hour has passed in Lisbon, and is still to come in Kochi, where the day has only begun.
    ['8am', '2026-03-06 08:00', '2026-03-06 08:00'],
    ['yesterday', '2026-03-04', '2026-03-05']
  ])('“%s”', (words, inLisbon, inKochi) => {
    expect(due(`Send the log, ${words}`, LISBON)).toEqual([inLisbon]);
    expect(due(`Send the log, ${words}`, KOCHI)).toEqual([inKochi]);
    // The same at the end of the words, without a comma.
    expect(due(`Send the log ${words}`, LISBON)).toEqual([inLisbon]);
    expect(nameOf(`Send the log ${words}`)).toBe('Send the log');
  });

  it.each([
    // On a Thursday evening in Lisbon it is Friday in Kochi.
    ['fri', ['2026-03-06'], ['2026-03-06', '2026-03-13']],
    ['thu', ['2026-03-05', '2026-03-12'], ['2026-03-12']],
    ['next friday', ['2026-03-13', '2026-03-06'], ['2026-03-13']],
    ['04/05', ['2026-05-04', '2026-04-05'], ['2026-05-04', '2026-04-05']],
    ['mon at 3', ['2026-03-09 15:00', '2026-03-09 03:00'], ['2026-03-09 15:00', '2026-03-09 03:00']]
  ])('“%s” can mean several things, and is asked', (words, inLisbon, inKochi) => {
    expect(due(`Send the log, ${words}`, LISBON)).toEqual(inLisbon);
    expect(due(`Send the log, ${words}`, KOCHI)).toEqual(inKochi);
  });

  it.each([
    ['31.2.', '31.2. is not a date: February 2026 has 28 days.'],
    ['31.02.', '31.02. is not a date: February 2026 has 28 days.'],
    ['31 feb', '31 feb is not a date: February 2026 has 28 days.'],
    ['2026-02-30', '2026-02-30 is not a date: February 2026 has 28 days.'],
    ['13/13', '13/13 is not a date: there is no month 13.'],
    ['wed 5 mar 2026', 'wed 5 mar 2026 is not a date: 5 March 2026 is a Thursday.'],
    ['25:00', '“25:00” is not a time of day. Write 00:00 to 23:59, like 09:00.'],
    ['tomorrow 25:00', '“25:00” is not a time of day. Write 00:00 to 23:59, like 09:00.'],
    ['for Zora', 'Nobody here is called “Zora”.'],
    ['in march', 'You have no project “march”.']
  ])('“%s” says what there is not, which is said and never slips into the name', (words, why) => {
    expect(due(`Send the log, ${words}`, LISBON)).toEqual([]);
    const line = readLine(`Send the log, ${words}`, LISBON, NAMES);
    expect(unclearOf(line)).toEqual([{ said: words, why }]);
    expect(nameOfLine(line, () => false)).toBe('Send the log');
    expect(nameOfLine(line, () => true)).toBe(`Send the log, ${words}`);
  });

  it('a date that is none is found at the end of the name too', () => {
    const line = readLine('Send the log 31.02.', LISBON, NAMES);
    expect(unclearOf(line).map(({ said }) => said)).toEqual(['31.02.']);
  });

  it.each(['Call the office 25:00', 'Call the office 25:00 tomorrow'])(
    'a time that is none is found there too: %s',
    (words) => {
      const line = readLine(words, LISBON, NAMES);
      expect(unclearOf(line).map(({ said }) => said)).toEqual(['25:00']);
      expect(nameOfLine(line, () => false)).toBe('Call the office');
    }
  );

  it.each([
    ['Send the log 31.02. for Zora', ['31.02.', 'for Zora'], null],
    ['Call the office 25:00 for Zora', ['25:00', 'for Zora'], null],
    ['Send the log tomorrow for Zora', ['for Zora'], '2026-03-06'],
    ['Send the log 20.3. 16:00 in Nowhere', ['in Nowhere'], '2026-03-20 16:00']
  ])('what follows a date and is nobody is asked about, and the date is read: %s', (words, unclear, day) => {
    const line = readLine(words, LISBON, NAMES);
    expect(unclearOf(line).map(({ said }) => said)).toEqual(unclear);
    expect(due(words, LISBON)).toEqual(day === null ? [] : [day]);
    expect(nameOfLine(line, () => false)).toMatch(/^(Send the log|Call the office)$/);
    expect(nameOfLine(line, () => true)).toBe(
      words.replace(day === null ? '' : / (tomorrow|20.3. 16:00)/, '')
    );
  });

  it('what is nobody behind other words may belong to the name', () => {
    expect(nameOf('Buy flowers for Zora')).toBe('Buy flowers for Zora');
  });

  it('a time that there is stays in a name that nobody took it out of', () => {
    expect(nameOf('Move the call of 15:30 for good')).toBe('Move the call of 15:30 for good');
  });

  it.each(['march', 'someday'])('“%s” is a word like any other', (words) => {
    expect(due(`Send the log, ${words}`, LISBON)).toEqual([]);
    expect(nameOf(`Send the log, ${words}`)).toBe(`Send the log, ${words}`);
  });
});

describe('a line', () => {
  it('is taken apart: what, when, for whom, how pressing', () => {
    const line = readLine('send the gauge log, mon 3pm, for Ines, high', LISBON, NAMES);
    expect(line).toMatchObject({
      ...{ left: ['send the gauge log'], priority: 'high', owners: [{ id: 1 }] },
      pieces: [
        { about: 'due', said: 'mon 3pm' },
        { about: 'owner', said: 'for Ines' },
        { about: 'priority', said: 'high' }
      ]
    });
  });

  it('knows projects, tags, rhythms and “me”', () => {
    const line = readLine(
      'Renew the mooring permit, in Permit renewals, tagged reef, every 2 weeks, for me, tomorrow',
      LISBON,
      NAMES
    );
    expect(line).toMatchObject({
      left: ['Renew the mooring permit'],
      projects: [{ id: 10 }],
      tags: ['reef'],
      rhythm: { n: 2, unit: 'week' },
      owners: [{ id: 1 }]
    });
    expect(line.due?.choices).toHaveLength(1);
  });

  it('keeps both where a name is two people’s, and asks', () => {
    expect(readLine('Call the quay, for Dale', LISBON, NAMES).owners.map(({ id }) => id)).toEqual([2, 3]);
    expect(readLine('Call the quay, for Dale Marr', LISBON, NAMES).owners.map(({ id }) => id)).toEqual([3]);
  });

  it.each([
    'Publish the March tide tables',
    'Order shackles for buoy 7',
    'Check the high tide marks',
    'Count bottles, boxes, lids',
    'Read section 4.5 of the manual',
    'Meet in the harbour office',
    'مراجعة تصريح الغوص',
    '🐚 count the shells'
  ])('leaves “%s” as it is', (text) => {
    expect(nameOf(text)).toBe(text);
    expect(readLine(text, LISBON, NAMES)).toMatchObject({
      pieces: [],
      due: null,
      owners: [],
      projects: [],
      priority: null
    });
  });
});
