import { describe, expect, it } from 'vitest';
import type { CalendarSpec } from '../../src/lib/core/calendar/spec.ts';
import { answerCase } from '../../src/lib/core/ringtime/answer.ts';
import type { RingCase } from '../../src/lib/core/ringtime/case.ts';
import { expandCase } from '../../src/lib/core/ringtime/expand.ts';

/** Check values of the trade, worked out by hand (common practice, no source), with the outcome that this product gives them. */
const OPEN = ['09:00-17:00'];
const MON_FRI: CalendarSpec = { week: { mon: OPEN, tue: OPEN, wed: OPEN, thu: OPEN, fri: OPEN } };
const day = (n: number) => ({ offset: { n, unit: 'day' as const } });
const workday = (n: number) => ({ offset: { n, unit: 'workday' as const }, calendar: MON_FRI });
const dateOf = (ringCase: RingCase) => answerCase(ringCase).date;
const instantOf = (ringCase: RingCase) => answerCase(ringCase).instant;
const dates = (anchor: string, ...offsets: RingCase[keyof RingCase & 'offset'][]) =>
  offsets.map((offset) => dateOf({ anchor, offset, calendar: MON_FRI }));
const days = (...ns: number[]) => ns.map((n) => ({ n, unit: 'day' as const }));
const workdays = (...ns: number[]) => ns.map((n) => ({ n, unit: 'workday' as const }));

describe('steps around an event', () => {
  it.each([
    [
      'on the 30th, plain days',
      '2025-06-30',
      days(-21, -14, -1, 0),
      ['2025-06-09', '2025-06-16', '2025-06-29', '2025-06-30']
    ],
    [
      'the same, working days',
      '2025-06-30',
      workdays(-21, -14, -1),
      ['2025-05-30', '2025-06-10', '2025-06-27']
    ],
    [
      'on a Tuesday',
      '2025-09-30',
      days(-21, -14, -1, 0),
      ['2025-09-09', '2025-09-16', '2025-09-29', '2025-09-30']
    ],
    ['a start on Monday, two days before', '2026-06-08', days(-2), ['2026-06-06']],
    ['the same in working days', '2026-06-08', workdays(-2), ['2026-06-04']],
    ['a start on Tuesday, two days before', '2026-06-09', days(-2), ['2026-06-07']],
    ['the same in working days', '2026-06-09', workdays(-2), ['2026-06-05']],
    ['due on Friday, five and two days before', '2026-06-12', days(-5, -2), ['2026-06-07', '2026-06-10']],
    ['the same in working days', '2026-06-12', workdays(-5, -2), ['2026-06-05', '2026-06-10']]
  ])('%s', (_, anchor, offsets, expected) => {
    expect(dates(anchor, ...offsets)).toEqual(expected);
  });

  it('a step that lands on Sunday moves earlier before a date, by default', () => {
    expect(dateOf({ anchor: '2025-06-30', ...day(-1), closedDay: 'earlier', calendar: MON_FRI })).toBe(
      '2025-06-27'
    );
    expect(dateOf({ anchor: '2026-06-08', ...day(-2), closedDay: 'earlier', calendar: MON_FRI })).toBe(
      '2026-06-05'
    );
  });
});

describe('a week on', () => {
  it.each([
    ['31 days', '2026-01-26', '2026-02-02'],
    ['30 days', '2026-04-26', '2026-05-03'],
    ['February', '2026-02-26', '2026-03-05'],
    ['leap February', '2028-02-26', '2028-03-04']
  ])('from the 26th, %s', (_, anchor, expected) => {
    expect(dateOf({ anchor, ...day(7) })).toBe(expected);
  });

  it('keeps the weekday', () => {
    expect(dateOf({ anchor: '2026-06-22', ...day(-7) })).toBe('2026-06-15');
  });
});

describe('clock and zone', () => {
  const sao = 'America/Sao_Paulo';

  it('a date shown in UTC−3 is never the evening before', () => {
    expect(answerCase({ anchor: '2026-06-10', zone: sao })).toMatchObject({
      date: '2026-06-10',
      local: '2026-06-10T00:00:00-03:00[America/Sao_Paulo]'
    });
  });

  it('08:00 stays 08:00 where summer time begins on Sunday 8 March', () => {
    const at8 = (anchor: string) => instantOf({ anchor, time: '08:00', zone: 'America/New_York' });
    expect([at8('2026-03-06'), at8('2026-03-09')]).toEqual(['2026-03-06T13:00:00Z', '2026-03-09T12:00:00Z']);
  });

  it('one date is eight o’clock at different instants, and in UTC on different days', () => {
    const at8 = (zone: string) => instantOf({ anchor: '2026-06-05', time: '08:00', zone });
    expect([at8(sao), at8('Australia/Brisbane')]).toEqual(['2026-06-05T11:00:00Z', '2026-06-04T22:00:00Z']);
    expect(instantOf({ anchor: '2026-06-05', time: '10:00', zone: 'Australia/Brisbane' })).toBe(
      '2026-06-05T00:00:00Z'
    );
  });

  it('an evening report keeps its weekday where it is read', () => {
    const { occurrences } = expandCase({
      rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
      start: '2026-06-05T21:00',
      zone: sao,
      count: 2
    });
    expect(occurrences).toEqual([
      '2026-06-05T21:00:00-03:00[America/Sao_Paulo]',
      '2026-06-08T21:00:00-03:00[America/Sao_Paulo]'
    ]);
  });

  it('leads in minutes count from the moment', () => {
    const before = (minutes: number) =>
      instantOf({ anchor: '2026-06-12T14:00', offset: { n: -minutes, unit: 'minute' } })
        ?.toString()
        .slice(11, 16);
    expect([15, 30, 60].map(before)).toEqual(['13:45', '13:30', '13:00']);
    expect(instantOf({ anchor: '2026-06-12T14:00', ...day(-1) })).toBe('2026-06-11T14:00:00Z');
  });
});

describe('waits', () => {
  it('two days after Friday is Sunday; two working days after is Tuesday', () => {
    expect(instantOf({ anchor: '2026-09-04T11:00', as: 'start', ...day(2), time: '09:00' })).toBe(
      '2026-09-06T09:00:00Z'
    );
    expect(instantOf({ anchor: '2026-09-04T11:00', as: 'start', ...workday(2), time: '09:00' })).toBe(
      '2026-09-08T09:00:00Z'
    );
  });
});

describe('what comes back', () => {
  const renew = (anchor: string, at: string, rest: Partial<RingCase>) =>
    answerCase({ ask: 'renew', anchor, at, ...rest });

  it.each([
    [
      'daily, finished on Friday',
      '2026-06-05',
      '2026-06-05',
      { rhythm: { n: 1, unit: 'day' } },
      '2026-06-06'
    ],
    [
      'daily in working days',
      '2026-06-05',
      '2026-06-05',
      { rhythm: { n: 1, unit: 'workday' }, calendar: MON_FRI },
      '2026-06-08'
    ],
    [
      'daily, due on Monday, finished on Wednesday',
      '2026-06-01',
      '2026-06-03',
      { rhythm: { n: 1, unit: 'day' } },
      '2026-06-04'
    ],
    [
      'weekly, due on Tuesday, finished on Thursday',
      '2026-06-02',
      '2026-06-04',
      { rhythm: { n: 1, unit: 'week' } },
      '2026-06-09'
    ],
    [
      'the same day next month',
      '2026-01-31',
      '2026-01-31',
      { rhythm: { n: 1, unit: 'month' } },
      '2026-02-28'
    ],
    [
      'the same in a leap year',
      '2028-01-31',
      '2028-01-31',
      { rhythm: { n: 1, unit: 'month' } },
      '2028-02-29'
    ],
    [
      'from the finish',
      '2026-06-02',
      '2026-06-04',
      { rhythm: { n: 1, unit: 'week' }, from: 'finish' },
      '2026-06-11'
    ],
    [
      'by the calendar, whether finished or not',
      '2026-06-02',
      '2026-06-30',
      { rhythm: { n: 1, unit: 'week' }, from: 'calendar' },
      '2026-06-09'
    ]
  ] as [string, string, string, Partial<RingCase>, string][])('%s', (_, anchor, at, rest, expected) => {
    expect(renew(anchor, at, rest).date).toBe(expected);
  });

  it('lists the rounds that were passed over, and remembers the 31st', () => {
    expect(renew('2026-01-31', '2026-04-02', { rhythm: { n: 1, unit: 'month' } })).toEqual({
      date: '2026-04-30',
      skipped: ['2026-02-28', '2026-03-31']
    });
    expect(renew('2026-01-05', '2026-01-05', { rhythm: 'FREQ=MONTHLY;BYDAY=1MO' }).date).toBe('2026-02-02');
    expect(renew('2026-01-05', '2026-01-05', { rhythm: 'FREQ=DAILY;COUNT=1' })).toEqual({
      date: null,
      skipped: []
    });
  });
});

describe('overdue and days left', () => {
  const overdue = (anchor: string, at: string) =>
    answerCase({ ask: 'overdue', anchor, at, calendar: MON_FRI });

  it('due today is not overdue, due yesterday is, by one day', () => {
    expect(overdue('2026-06-05', '2026-06-05T23:59Z')).toEqual({
      overdue: false,
      days: 0,
      workdays: 0,
      workminutes: 0
    });
    expect(overdue('2026-06-04', '2026-06-05T00:00Z')).toMatchObject({
      overdue: true,
      days: 1,
      workdays: 1,
      band: '1–2'
    });
  });

  it('counts working days beside calendar days, and names the band', () => {
    const ages = [
      '2026-06-06T12:00Z',
      '2026-06-08T12:00Z',
      '2026-06-10T12:00Z',
      '2026-06-12T12:00Z',
      '2026-06-22T12:00Z'
    ];
    expect(
      ages.map((at) => overdue('2026-06-05', at)).map(({ days, workdays, band }) => [days, workdays, band])
    ).toEqual([
      [1, 0, 'under 1'],
      [3, 1, '1–2'],
      [5, 3, '3–5'],
      [7, 5, '3–5'],
      [17, 11, 'over 10']
    ]);
  });

  it('takes pauses out of the working minutes once, however they overlap', () => {
    const pauses = [
      { from: '2026-06-08T09:00Z', to: '2026-06-08T12:00Z' },
      { from: '2026-06-08T11:00Z', to: '2026-06-08T13:00Z' },
      { from: '2026-06-07T00:00Z', to: '2026-06-07T20:00Z' }
    ];
    const minutes = answerCase({
      ask: 'overdue',
      anchor: '2026-06-05',
      at: '2026-06-08T17:00Z',
      calendar: MON_FRI,
      pauses
    });
    expect(minutes.workminutes).toBe(4 * 60);
  });

  it('says 0, 1 and overdue on the day, the day before and after', () => {
    const left = (at: string) => answerCase({ ask: 'daysLeft', anchor: '2026-06-12', at });
    expect([left('2026-06-12T08:00Z'), left('2026-06-11T08:00Z'), left('2026-06-13T00:00Z')]).toEqual([
      { days: 0 },
      { days: 1 },
      { overdue: true }
    ]);
    // Five days before is Sunday: moved back to Friday it is seven, moved on to Monday four.
    expect([left('2026-06-05T08:00Z'), left('2026-06-08T08:00Z')]).toEqual([{ days: 7 }, { days: 4 }]);
  });
});

describe('weeks', () => {
  const span = (anchor: string, at: string, calendar: CalendarSpec = MON_FRI) =>
    answerCase({ ask: 'week', anchor, at, calendar }).span;

  it('closed days belong to the week they close', () => {
    const wednesday = '2026-03-04T12:00Z';
    expect(
      ['2026-03-03', '2026-03-04', '2026-03-05', '2026-03-08', '2026-03-09', '2026-03-15', '2026-03-16'].map(
        (date) => span(date, wednesday)
      )
    ).toEqual([...['today', 'today', 'rest', 'rest', 'after', 'after', 'further']]);
    // On Saturday the rest of the week is Sunday; on Monday it is the whole week.
    expect([span('2026-03-08', '2026-03-07T12:00Z'), span('2026-03-09', '2026-03-07T12:00Z')]).toEqual([
      'rest',
      'after'
    ]);
    expect([span('2026-03-15', '2026-03-09T12:00Z'), span('2026-03-16', '2026-03-09T12:00Z')]).toEqual([
      'rest',
      'after'
    ]);
  });

  it('start where the longest closed run ends', () => {
    const week = (...names: string[]) => ({ week: Object.fromEntries(names.map((name) => [name, OPEN])) });
    const next = (calendar: CalendarSpec) =>
      ['2026-03-08', '2026-03-09', '2026-03-10', '2026-03-11', '2026-03-12'].find(
        (date) => span(date, '2026-03-07T12:00Z', calendar) === 'after'
      );
    expect(next(week('sun', 'mon', 'tue', 'wed', 'thu'))).toBe('2026-03-08');
    expect(next(week('mon', 'tue', 'wed', 'thu', 'fri', 'sat'))).toBe('2026-03-09');
    // Tuesday, Thursday and Saturday work: of equal runs the one with Sunday is last, so the week starts on Tuesday.
    expect(next(week('tue', 'thu', 'sat'))).toBe('2026-03-10');
    expect(next(week('mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'))).toBe('2026-03-09');
  });
});

describe('how often', () => {
  it('every 5 minutes is 288 times a day; weekdays are 20 times in four weeks', () => {
    const count = (rrule: string, to: string) =>
      (expandCase({ rrule, start: '2026-06-01T00:00', to, count: 1_000 }).occurrences as string[]).length;
    expect(count('FREQ=MINUTELY;INTERVAL=5', '2026-06-02')).toBe(288);
    expect(count('FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', '2026-06-29')).toBe(20);
  });

  it('a Friday search within 30 days of 7 September finds the date 5 and 4 times; a lead finds it once', () => {
    const fridays = (year: number) =>
      (
        expandCase({
          rrule: 'FREQ=WEEKLY',
          start: `${year === 2025 ? '2025-08-01' : '2026-08-07'}T11:00`,
          from: `${year}-08-08`,
          to: `${year}-09-08`
        }).occurrences as string[]
      ).map((text) => text.slice(5, 10));
    expect(fridays(2025)).toEqual(['08-08', '08-15', '08-22', '08-29', '09-05']);
    expect(fridays(2026)).toEqual(['08-14', '08-21', '08-28', '09-04']);
    expect(dateOf({ anchor: '2026-09-07', ...day(-30) })).toBe('2026-08-08');
  });

  it('the last working day of the month is the last day, moved earlier within it', () => {
    const last = ['2026-01-31', '2026-02-28', '2026-05-31'].map((anchor) =>
      dateOf({ anchor, closedDay: 'earlier-in-month', calendar: MON_FRI })
    );
    expect(last).toEqual(['2026-01-30', '2026-02-27', '2026-05-29']);
  });
});

describe('Regulation (EEC, Euratom) No 1182/71, Article 3 (from memory)', () => {
  // A period in days starts on the day after the event, runs over closed days, and one that would end on a public holiday, Sunday
  // or Saturday ends with the last hour of the following working day.
  const period = (event: string, n: number, closed: string[] = []) =>
    dateOf({ anchor: event, as: 'start', ...day(n), closedDay: 'later', calendar: { ...MON_FRI, closed } });

  it.each([
    ['ten days after Monday 2 March 2026', '2026-03-02', 10, [], '2026-03-12'],
    ['five days after Monday 2 March end on Saturday: Monday', '2026-03-02', 5, [], '2026-03-09'],
    [
      'a period that ends on Good Friday ends on Tuesday, Monday being closed too',
      '2026-03-27',
      7,
      ['2026-04-03', '2026-04-06'],
      '2026-04-07'
    ]
  ] as [string, string, number, string[], string][])('%s', (_, event, n, closed, expected) => {
    expect(period(event, n, closed)).toBe(expected);
  });

  it('a period in working days does not count closed days', () => {
    expect(
      dateOf({
        anchor: '2026-04-01',
        as: 'start',
        offset: { n: 3, unit: 'workday' },
        calendar: { ...MON_FRI, closed: ['2026-04-03', '2026-04-06'] }
      })
    ).toBe('2026-04-08');
  });
});

describe('US Federal Rule of Civil Procedure 6(a) (from memory)', () => {
  const federal = { ...MON_FRI, closed: ['2026-01-19', '2026-05-25', '2026-07-03', '2026-12-25'] };

  it.each([
    ['(1)(C): 14 days from a Friday end on a Friday', '2026-03-06', 14, '2026-03-20'],
    ['(1)(C): a last day on Saturday runs on to Monday', '2026-03-06', 15, '2026-03-23'],
    ['(1)(C): a last day on Memorial Day runs on to Tuesday', '2026-05-11', 14, '2026-05-26'],
    ['(5): counted backward, a last day on a holiday goes on backward', '2026-07-13', -10, '2026-07-02']
  ])('%s', (_, anchor, n, expected) => {
    expect(dateOf({ anchor, ...day(n), closedDay: 'onward', calendar: federal })).toBe(expected);
  });

  it('(2): hours run on over weekends, and a period that ends on one runs to the same time on the next working day', () => {
    const hours = (anchor: string, n: number) =>
      instantOf({ anchor, as: 'start', offset: { n, unit: 'hour' }, closedDay: 'onward', calendar: federal });
    expect(hours('2026-03-03T10:15', 72)).toBe('2026-03-06T10:15:00Z');
    expect(hours('2026-03-05T10:15', 72)).toBe('2026-03-09T10:15:00Z');
  });
});
