import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { formatDay, parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { occurrences } from './occurrences.ts';
import { nextRound, type RoundDates, type RoundRule } from './round.ts';
import { parseRecurrenceRule } from './rrule.ts';

/** Tables worked by hand on a calendar of paper; where RFC 5545 coincides, its printed results. */
const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:00']]));
const { days } = new CompiledCalendar(
  parseCalendar({ week, closed: ['2026-04-03'] }),
  zoneNamed('Europe/Lisbon')
);
const date = (text: string | null) =>
  text === null ? null : { day: parseDay(text), minute: null, zone: null };

/** The due dates of rounds that are each finished on the date given, or on their due date. */
function rounds(due: string, rule: Partial<RoundRule>, finished: (string | null)[]): string[] {
  const whole: RoundRule = { rhythm: { n: 1, unit: 'month' }, from: 'due', closedDay: 'as-is', ...rule };
  let dates: RoundDates = {
    due: date(due),
    start: null,
    remindOn: null,
    originDay: null,
    rhythmDay: null
  };
  return finished.map((on) => {
    const next = nextRound(dates, on === null ? dates.due!.day : parseDay(on), whole, days);
    if (!next) return 'ended';
    dates = {
      due: next.due,
      start: null,
      remindOn: null,
      originDay: next.originDay,
      rhythmDay: next.rhythmDay
    };
    return formatDay(next.due.day);
  });
}
const onTime = (count: number) => Array<null>(count).fill(null);

describe('the next round of a recurring task', () => {
  it.each([
    // Worked example of the timing page: month ends clamp, and the 31st is remembered through them.
    [
      'monthly from the 31st',
      '2026-01-31',
      {},
      onTime(4),
      ['2026-02-28', '2026-03-31', '2026-04-30', '2026-05-31']
    ],
    // 29 February comes back in leap years only (2028; clamped in between).
    [
      'yearly from 29 February',
      '2024-02-29',
      { rhythm: { n: 12, unit: 'month' } },
      onTime(4),
      ['2025-02-28', '2026-02-28', '2027-02-28', '2028-02-29']
    ],
    // Common practice, no source: the same weekday next week, the same day next month, tomorrow.
    ['weekly', '2026-03-05', { rhythm: { n: 1, unit: 'week' } }, onTime(2), ['2026-03-12', '2026-03-19']],
    // Common practice, no source: in working days what is finished on a Friday goes on on Monday, in plain days on Saturday.
    [
      'every working day',
      '2026-03-06',
      { rhythm: { n: 1, unit: 'workday' } },
      onTime(2),
      ['2026-03-09', '2026-03-10']
    ],
    ['every day', '2026-06-05', { rhythm: { n: 1, unit: 'day' } }, onTime(1), ['2026-06-06']],
    // Common practice, no source: due Monday and finished on Wednesday, a daily task is due on Thursday and not on Tuesday.
    ['daily, finished late', '2026-06-01', { rhythm: { n: 1, unit: 'day' } }, ['2026-06-03'], ['2026-06-04']],
    // Common practice, no source: due Tuesday and finished on Thursday, a weekly task is due on the next Tuesday.
    [
      'weekly, two days late',
      '2026-06-02',
      { rhythm: { n: 1, unit: 'week' } },
      ['2026-06-04'],
      ['2026-06-09']
    ],
    ['monthly from the 31st of March', '2026-03-31', {}, onTime(1), ['2026-04-30']],
    ['monthly into a leap February', '2028-01-31', {}, onTime(1), ['2028-02-29']],
    // Finished three weeks late: the dates that have passed are not made up for.
    [
      'weekly, finished late',
      '2026-03-05',
      { rhythm: { n: 1, unit: 'week' } },
      ['2026-03-24'],
      ['2026-03-26']
    ],
    // Finished early: the next date of the rhythm after the due date all the same.
    [
      'weekly, finished early',
      '2026-03-12',
      { rhythm: { n: 1, unit: 'week' } },
      ['2026-03-02'],
      ['2026-03-19']
    ],
    // Counted from the day on which it was finished.
    [
      'a month from its finish',
      '2026-03-05',
      { from: 'finish' },
      ['2026-03-24', '2026-05-31'],
      ['2026-04-24', '2026-06-30']
    ],
    // Good Friday 3 April 2026 is closed: that date moves, the rhythm does not.
    [
      'a closed day moves one date and not the rhythm',
      '2026-03-03',
      { closedDay: 'later' },
      onTime(2),
      ['2026-04-06', '2026-05-04']
    ],
    [
      'earlier on a closed day',
      '2026-03-03',
      { closedDay: 'earlier' },
      onTime(2),
      ['2026-04-02', '2026-05-01']
    ],
    [
      'a rule that ends',
      '2026-03-05',
      { rhythm: { rule: parseRecurrenceRule('FREQ=DAILY;COUNT=2') } },
      onTime(2),
      ['2026-03-06', 'ended']
    ]
  ] as [string, string, Partial<RoundRule>, (string | null)[], string[]][])(
    '%s',
    (_, due, rule, finished, expected) => {
      expect(rounds(due, rule, finished)).toEqual(expected);
    }
  );

  it('takes start, reminder date and time along at their distance', () => {
    const zone = zoneNamed('Asia/Kolkata');
    const next = nextRound(
      {
        due: { day: parseDay('2026-03-10'), minute: 900, zone },
        start: date('2026-03-06'),
        remindOn: date('2026-03-09'),
        originDay: null,
        rhythmDay: null
      },
      parseDay('2026-03-10'),
      { rhythm: { n: 2, unit: 'week' }, from: 'due', closedDay: 'as-is' },
      days
    )!;
    expect([next.due.day, next.start!.day, next.remindOn!.day].map(formatDay)).toEqual([
      '2026-03-24',
      '2026-03-20',
      '2026-03-23'
    ]);
    expect(next.due).toMatchObject({ minute: 900, zone });
    expect(next.shiftDays).toBe(14);
  });

  it('keeps its rhythm when a person moves one due date, and takes no date up to that', () => {
    const moved = {
      due: date('2026-03-11'),
      start: null,
      remindOn: null,
      originDay: parseDay('2026-03-02'),
      rhythmDay: parseDay('2026-03-09')
    };
    const rule: RoundRule = { rhythm: { n: 1, unit: 'week' }, from: 'due', closedDay: 'as-is' };
    expect(formatDay(nextRound(moved, parseDay('2026-03-11'), rule, days)!.due.day)).toBe('2026-03-16');
    const far = { ...moved, due: date('2026-03-20') };
    const next = nextRound(far, parseDay('2026-03-19'), rule, days)!;
    expect(formatDay(next.due.day)).toBe('2026-03-23');
    expect(next.skipped.map(formatDay)).toEqual(['2026-03-16']);
  });

  it('by the calendar comes on its date whether or not the last is finished', () => {
    const dates = { due: date('2026-03-09'), start: null, remindOn: null, originDay: null, rhythmDay: null };
    const rule: RoundRule = { rhythm: { n: 1, unit: 'week' }, from: 'calendar', closedDay: 'as-is' };
    expect(formatDay(nextRound(dates, null, rule, days)!.due.day)).toBe('2026-03-16');
    expect(formatDay(nextRound(dates, parseDay('2026-05-01'), rule, days)!.due.day)).toBe('2026-05-04');
  });

  it.each([
    // RFC 5545 §3.8.5.3, "Monthly on the first Friday for 10 occurrences" and "Monthly on the second-to-last Monday".
    ['FREQ=MONTHLY;COUNT=10;BYDAY=1FR', '1997-09-05'],
    ['FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22']
  ])('finished on time, %s comes on the dates that RFC 5545 prints', (text, start) => {
    const rule = parseRecurrenceRule(text);
    const utc = zoneNamed('UTC');
    const printed = [...occurrences(rule, { day: parseDay(start), timeMs: 0 }, utc)].map((at) =>
      formatDay(utc.dayOf(at))
    );
    expect(rounds(start, { rhythm: { rule } }, onTime(printed.length - 1))).toEqual(printed.slice(1));
  });

  it('has no next round without a date to count from', () => {
    const dates = { due: null, start: null, remindOn: null, originDay: null, rhythmDay: null };
    const rule: RoundRule = { rhythm: { n: 1, unit: 'week' }, from: 'due', closedDay: 'as-is' };
    expect(nextRound(dates, parseDay('2026-03-05'), rule, days)).toBeNull();
    const fromFinish = nextRound(dates, parseDay('2026-03-05'), { ...rule, from: 'finish' }, days)!;
    expect(formatDay(fromFinish.due.day)).toBe('2026-03-12');
  });
});
