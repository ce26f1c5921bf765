import { describe, expect, it } from 'vitest';
import type { CalendarSpec } from '../calendar/spec.ts';
import { answerCase } from './answer.ts';
import type { RingCase } from './case.ts';
import { MON_FRI, NINE_TO_FIVE } from './weeks.fixture.ts';

/** The worked examples of docs/timing.md, computed through the same entry as the command line. */
/** US federal holidays of 2007 (5 U.S.C. 6103), the part that the cases touch. */
const US_2007: CalendarSpec = { ...MON_FRI, closed: [{ date: '2007-09-03', name: 'Labor Day' }] };

const dateOf = (ringCase: RingCase) => answerCase(ringCase).date;
const instantOf = (ringCase: RingCase) => answerCase(ringCase).instant;

describe('worked examples: offsets on dates', () => {
  it.each<[string, RingCase, string]>([
    // Advisory notes to US Federal Rule of Civil Procedure 6(a); the two examples are given from memory.
    [
      'backward count onto a weekend',
      { anchor: '2007-09-22', offset: { n: -21, unit: 'day' }, closedDay: 'onward', calendar: US_2007 },
      '2007-08-31'
    ],
    [
      'forward count onto a holiday weekend',
      { anchor: '2007-08-02', offset: { n: 30, unit: 'day' }, closedDay: 'onward', calendar: US_2007 },
      '2007-09-04'
    ],
    ['three weeks before an event', { anchor: '2026-04-30', offset: { n: -21, unit: 'day' } }, '2026-04-09'],
    ['two weeks before an event', { anchor: '2026-04-30', offset: { n: -14, unit: 'day' } }, '2026-04-16'],
    ['the day before an event', { anchor: '2026-04-30', offset: { n: -1, unit: 'day' } }, '2026-04-29'],
    ['the day of an event', { anchor: '2026-04-30', offset: { n: 0, unit: 'day' } }, '2026-04-30'],
    ['a week ahead', { anchor: '2026-06-22', offset: { n: -7, unit: 'day' }, time: '00:00' }, '2026-06-15'],
    [
      'a week on from the 26th, 31 days',
      { anchor: '2026-01-26', offset: { n: 7, unit: 'day' } },
      '2026-02-02'
    ],
    [
      'a week on from the 26th, 30 days',
      { anchor: '2026-04-26', offset: { n: 1, unit: 'week' } },
      '2026-05-03'
    ],
    [
      'a week on from the 26th, leap February',
      { anchor: '2028-02-26', offset: { n: 7, unit: 'day' } },
      '2028-03-04'
    ],
    [
      'a week on from the 26th, February',
      { anchor: '2026-02-26', offset: { n: 7, unit: 'day' } },
      '2026-03-05'
    ],
    ['a month on from the 31st', { anchor: '2026-01-31', offset: { n: 1, unit: 'month' } }, '2026-02-28'],
    ['two months on from the 31st', { anchor: '2026-01-31', offset: { n: 2, unit: 'month' } }, '2026-03-31'],
    [
      'working day after a Saturday',
      { anchor: '2026-03-07', offset: { n: 1, unit: 'workday' }, calendar: MON_FRI },
      '2026-03-09'
    ],
    [
      'working day before a Saturday',
      { anchor: '2026-03-07', offset: { n: -1, unit: 'workday' }, calendar: MON_FRI },
      '2026-03-06'
    ],
    [
      'Sunday to Thursday week',
      {
        anchor: '2026-03-05',
        offset: { n: 1, unit: 'workday' },
        calendar: {
          week: {
            sun: NINE_TO_FIVE,
            mon: NINE_TO_FIVE,
            tue: NINE_TO_FIVE,
            wed: NINE_TO_FIVE,
            thu: NINE_TO_FIVE
          }
        }
      },
      '2026-03-08'
    ],
    [
      'last working day of March 2024 in Lisbon',
      {
        anchor: '2024-03-31',
        closedDay: 'earlier-in-month',
        calendar: { ...MON_FRI, closed: [{ date: '2024-03-29', name: 'Good Friday' }] }
      },
      '2024-03-28'
    ],
    [
      'night shift',
      {
        anchor: '2026-03-06',
        offset: { n: 1, unit: 'workday' },
        calendar: {
          week: Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['22:00-06:00']]))
        }
      },
      '2026-03-09'
    ]
  ])('%s', (_, ringCase, expected) => {
    expect(dateOf(ringCase)).toBe(expected);
  });

  it.each([
    ['earlier', '2026-03-06'],
    ['later', '2026-03-09'],
    ['onward', '2026-03-09'],
    ['nearest', '2026-03-06'],
    ['as-is', '2026-03-07'],
    ['skip', undefined]
  ] as const)('on the day, a closed Saturday, %s', (closedDay, expected) => {
    expect(dateOf({ anchor: '2026-03-07', closedDay, calendar: MON_FRI })).toBe(expected);
  });

  // ISDA Definitions, modified following business day convention.
  it.each([
    ['later-in-month', '2026-02-27'],
    ['later', '2026-03-02']
  ] as const)('the last Saturday of a month, %s', (closedDay, expected) => {
    expect(dateOf({ anchor: '2026-02-28', closedDay, calendar: MON_FRI })).toBe(expected);
  });
});

describe('worked examples: wall time and zones', () => {
  it.each<[string, RingCase, string]>([
    [
      'evening report at UTC−3, summer',
      { anchor: '2026-01-15', time: '19:00', zone: 'America/Sao_Paulo' },
      '2026-01-15T22:00:00Z'
    ],
    [
      'evening report at UTC−3, winter',
      { anchor: '2026-07-15', time: '19:00', zone: 'America/Sao_Paulo' },
      '2026-07-15T22:00:00Z'
    ],
    [
      'the same when summer time was kept',
      { anchor: '2018-12-14', time: '19:00', zone: 'America/Sao_Paulo' },
      '2018-12-14T21:00:00Z'
    ],
    [
      'two days ahead',
      { anchor: '2026-03-05', offset: { n: -2, unit: 'day' }, time: '08:00', zone: 'Asia/Kolkata' },
      '2026-03-03T02:30:00Z'
    ],
    [
      'the same in working days',
      {
        anchor: '2026-03-05',
        offset: { n: -2, unit: 'workday' },
        time: '08:00',
        zone: 'Asia/Kolkata',
        calendar: { ...MON_FRI, closed: ['2026-03-04'] }
      },
      '2026-03-02T02:30:00Z'
    ],
    [
      'clock forward',
      { anchor: '2026-03-08', time: '02:30', zone: 'America/New_York' },
      '2026-03-08T07:30:00Z'
    ],
    ['clock back', { anchor: '2026-11-01', time: '01:30', zone: 'America/New_York' }, '2026-11-01T05:30:00Z'],
    [
      'half-hour shift',
      { anchor: '2026-10-04', time: '02:15', zone: 'Australia/Lord_Howe' },
      '2026-10-03T15:45:00Z'
    ],
    [
      'a day that starts at 01:00',
      { anchor: '2026-04-24', as: 'start', offset: { n: 0, unit: 'minute' }, zone: 'Africa/Cairo' },
      '2026-04-23T22:00:00Z'
    ],
    [
      '15 minutes before 14:00',
      { anchor: '2026-06-12T14:00', offset: { n: -15, unit: 'minute' }, zone: 'Europe/Lisbon' },
      '2026-06-12T12:45:00Z'
    ],
    [
      'a day before 14:00',
      { anchor: '2026-06-12T14:00', offset: { n: -1, unit: 'day' }, zone: 'Europe/Lisbon' },
      '2026-06-11T13:00:00Z'
    ],
    [
      'an hour before the end of a date',
      { anchor: '2026-03-06', offset: { n: -1, unit: 'hour' }, zone: 'America/Halifax' },
      '2026-03-07T03:00:00Z'
    ],
    [
      'hours across a clock change',
      { anchor: '2026-03-08T12:00', offset: { n: -12, unit: 'hour' }, zone: 'America/Halifax' },
      '2026-03-08T03:00:00Z'
    ]
  ])('%s', (_, ringCase, expected) => {
    expect(instantOf(ringCase)).toBe(expected);
  });

  it('keeps a date-time anchor in its own zone without a time, and reads its date in the ring zone with one', () => {
    const anchor = '2026-03-05T23:00:00+00:00[Europe/Lisbon]';
    const own = answerCase({ anchor, offset: { n: -1, unit: 'day' }, zone: 'Australia/Hobart' });
    expect(own.instant).toBe('2026-03-04T23:00:00Z');
    const timed = answerCase({
      anchor,
      offset: { n: -1, unit: 'day' },
      time: '09:00',
      zone: 'Australia/Hobart'
    });
    expect(timed.local).toBe('2026-03-05T09:00:00+11:00[Australia/Hobart]');
    expect(timed.why).toContainEqual(expect.objectContaining({ code: 'anchor-read-elsewhere' }));
  });

  it('counts a skipped date as closed', () => {
    // Apia went from 29 to 31 December 2011 (tz database, file australasia).
    const everyDay: CalendarSpec = {
      week: Object.fromEntries(
        ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((day) => [day, ['00:00-24:00']])
      )
    };
    expect(
      dateOf({
        anchor: '2011-12-29',
        offset: { n: 1, unit: 'workday' },
        zone: 'Pacific/Apia',
        calendar: everyDay
      })
    ).toBe('2011-12-31');
  });
});

describe('worked examples: working hours, hold, late bells, days left', () => {
  const lisbon = { zone: 'Europe/Lisbon' };

  it.each<[string, RingCase, string]>([
    [
      '8 working hours after Friday 16:00, Monday closed',
      {
        ...lisbon,
        anchor: '2026-03-06T16:00',
        offset: { n: 8, unit: 'workhour' },
        calendar: { ...MON_FRI, closed: ['2026-03-09'] }
      },
      '2026-03-10T16:00:00Z'
    ],
    [
      'a sum that ends on closing',
      {
        ...lisbon,
        anchor: '2026-03-06T16:00',
        offset: { n: 1, unit: 'workhour' },
        calendar: MON_FRI,
        hold: { calendar: MON_FRI }
      },
      '2026-03-06T17:00:00Z'
    ],
    [
      'closing is inside reach',
      { ...lisbon, anchor: '2026-03-06', time: '17:00', hold: { calendar: MON_FRI } },
      '2026-03-06T17:00:00Z'
    ],
    [
      'a minute after closing is not',
      { ...lisbon, anchor: '2026-03-06', time: '17:01', hold: { calendar: MON_FRI } },
      '2026-03-09T09:00:00Z'
    ],
    [
      'quiet hours over midnight',
      { ...lisbon, anchor: '2026-03-06', time: '23:30', hold: { quiet: ['22:00-07:00'] } },
      '2026-03-07T07:00:00Z'
    ],
    [
      'the start of quiet is held',
      { ...lisbon, anchor: '2026-03-06', time: '22:00', hold: { quiet: ['22:00-07:00'] } },
      '2026-03-07T07:00:00Z'
    ],
    [
      'the end of quiet is not',
      { ...lisbon, anchor: '2026-03-06', time: '07:00', hold: { quiet: ['22:00-07:00'] } },
      '2026-03-06T07:00:00Z'
    ]
  ])('%s', (_, ringCase, expected) => {
    expect(instantOf(ringCase)).toBe(expected);
  });

  it('climbs by working hours over a weekend', () => {
    const rung = (n: number) =>
      instantOf({
        anchor: '2026-03-06',
        zone: 'America/Halifax',
        offset: { n, unit: 'workhour' },
        calendar: MON_FRI
      });
    expect([rung(0), rung(8), rung(12)]).toEqual([
      '2026-03-09T12:00:00Z',
      '2026-03-09T20:00:00Z',
      '2026-03-10T16:00:00Z'
    ]);
  });

  it('counts the days left when the message leaves', () => {
    const held = answerCase({
      ...lisbon,
      anchor: '2026-03-09',
      offset: { n: -2, unit: 'day' },
      time: '08:00',
      calendar: MON_FRI,
      hold: { calendar: MON_FRI }
    });
    expect(held.instant).toBe('2026-03-09T09:00:00Z');
    const left = (at: unknown) =>
      answerCase({ ...lisbon, anchor: '2026-03-09', ask: 'daysLeft', at: String(at) });
    expect(left(held.instant)).toEqual({ days: 0 });
    expect(left('2026-03-06T09:00:00Z')).toEqual({ days: 3 });
    expect(left('2026-03-10T00:00:00Z')).toEqual({ overdue: true });
  });

  it('marks a ring that leaves when its date is over', () => {
    const late = answerCase({
      ...lisbon,
      anchor: '2026-03-07',
      offset: { n: -1, unit: 'hour' },
      hold: { calendar: MON_FRI }
    });
    expect(late).toMatchObject({
      instant: '2026-03-09T09:00:00Z',
      heldFrom: '2026-03-07T23:00:00Z',
      lateBell: true
    });
  });

  it('knows the end of the day by both conventions', () => {
    const due = (endOfDay: 'midnight' | 'close') =>
      answerCase({
        anchor: '2026-03-06',
        zone: 'America/Halifax',
        calendar: MON_FRI,
        ask: 'dueMoment',
        endOfDay
      }).instant;
    expect([due('midnight'), due('close')]).toEqual(['2026-03-07T04:00:00Z', '2026-03-06T21:00:00Z']);
  });

  it('gives the printed example of the command', () => {
    const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:30']]));
    const answer = answerCase({
      id: 'a1',
      anchor: '2026-03-05',
      anchorZone: 'Asia/Kolkata',
      offset: { n: -2, unit: 'workday' },
      closedDay: 'earlier',
      time: '08:00',
      zone: 'Asia/Kolkata',
      calendar: { week, closed: ['2026-03-04'], hours: { '2026-03-06': ['09:00-12:00'] } },
      hold: { zone: 'Asia/Kolkata', calendar: { week: { mon: ['09:00-17:30'] } } }
    });
    expect(answer).toMatchObject({
      id: 'a1',
      instant: '2026-03-02T03:30:00Z',
      local: '2026-03-02T09:00:00+05:30[Asia/Kolkata]',
      date: '2026-03-02',
      heldFrom: '2026-03-02T02:30:00Z'
    });
  });
});
