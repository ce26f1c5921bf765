import { describe, expect, it } from 'vitest';
import { answerCase } from './answer.ts';
import type { RingCase } from './case.ts';
import type { PlaceCase } from './place-case.ts';
import { expandCase } from './expand.ts';
import { MON_FRI } from './weeks.fixture.ts';

describe('refusals', () => {
  it.each<[string, Partial<PlaceCase>, string, string]>([
    ['a due date that does not exist', { due: '2026-02-30' }, 'date-impossible', 'due'],
    ['an unknown zone of a person', { zone: 'Europe/Lissabon' }, 'zone-unknown', 'zone'],
    ['parked without a day', { status: 'parked' }, 'field-needed', 'reviewOn'],
    ['moved, nobody knows when', { movedTo: 'after' }, 'field-needed', 'movedAt'],
    ['moved later than asked', { movedTo: 'after', movedAt: '2026-03-06T12:00Z' }, 'moved-later', 'movedAt'],
    [
      'a day before the move',
      { movedTo: '2026-03-04', movedAt: '2026-03-05T10:00Z' },
      'desk-day-past',
      'movedTo'
    ],
    ['moved to no place', { movedTo: 'soon', movedAt: '2026-03-05T10:00Z' }, 'date-format', 'movedTo']
  ])('a place: %s', (_, written, code, field) => {
    const placeCase: PlaceCase = { ask: 'place', at: '2026-03-05T12:00:00Z', ...written };
    expect(() => answerCase(placeCase)).toThrow(expect.objectContaining({ code, field }) as Error);
  });

  it.each<[string, RingCase, string, string | undefined]>([
    ['a date that does not exist', { anchor: '2026-02-30' }, 'date-impossible', 'anchor'],
    ['a year before 1900', { anchor: '1899-12-31' }, 'date-out-of-range', 'anchor'],
    ['a year after 2200', { anchor: '2201-01-01' }, 'date-out-of-range', 'anchor'],
    [
      'a result after 2200',
      { anchor: '2200-12-31', offset: { n: 1, unit: 'day' } },
      'date-out-of-range',
      undefined
    ],
    ['an unknown zone', { anchor: '2026-03-05', zone: 'Europe/Lissabon' }, 'zone-unknown', 'zone'],
    ['a bare offset as zone', { anchor: '2026-03-05', zone: '+02:00' }, 'zone-unknown', 'zone'],
    [
      'a time with minutes',
      { anchor: '2026-03-05', time: '09:00', offset: { n: -5, unit: 'minute' } },
      'time-with-elapsed-unit',
      'time'
    ],
    [
      'a calendar without working time',
      { anchor: '2026-03-05', calendar: { week: {} }, offset: { n: 1, unit: 'workday' } },
      'no-working-time',
      undefined
    ],
    [
      'no working minutes either',
      { anchor: '2026-03-05', calendar: { week: {} }, offset: { n: 1, unit: 'workminute' } },
      'no-working-time',
      undefined
    ],
    [
      'an interval without length',
      { anchor: '2026-03-05', calendar: { week: { mon: ['09:00-09:00'] } } },
      'interval-empty',
      'calendar.week.mon'
    ],
    [
      'an offset beyond all dates',
      { anchor: '2026-03-05', offset: { n: 1e12, unit: 'day' } },
      'offset-too-large',
      'offset.n'
    ]
  ])('%s', (_, ringCase, code, field) => {
    expect(() => answerCase(ringCase)).toThrow(expect.objectContaining({ code, field }));
  });

  it('does not ring when nobody can be reached', () => {
    const answer = answerCase({ anchor: '2026-03-05', hold: { calendar: { week: {} } } });
    expect(answer).toMatchObject({
      instant: null,
      why: expect.arrayContaining([expect.objectContaining({ code: 'never-reachable' })])
    });
  });

  it.each<[string, RingCase, string, string]>([
    [
      'leave that ends before it begins',
      { anchor: '2026-03-05', leave: [{ from: '2026-03-09', to: '2026-03-08' }] },
      'leave-order',
      'leave.0.to'
    ],
    [
      'an impossible date in leave',
      { anchor: '2026-03-05', leave: [{ from: '2026-02-30', to: '2026-03-08' }] },
      'date-impossible',
      'leave.0.from'
    ],
    [
      'an unknown zone of a stand-in',
      { anchor: '2026-03-05', standIn: { zone: 'Europe/Lisboa' } },
      'zone-unknown',
      'standIn.zone'
    ],
    [
      'a repeat that stands still',
      { anchor: '2026-03-05', repeat: { n: 0, unit: 'day', count: 2 } },
      'repeat-step',
      'repeat.n'
    ],
    [
      'a repeat that never rings',
      {
        anchor: '2026-03-07',
        closedDay: 'skip',
        calendar: MON_FRI,
        repeat: { n: 1, unit: 'week', count: 2 }
      },
      'repeat-endless',
      'repeat'
    ],
    ['an age without its moment', { anchor: '2026-03-05', ask: 'overdue' }, 'field-needed', 'at'],
    [
      'a renewal without a rhythm',
      { anchor: '2026-03-05', ask: 'renew', at: '2026-03-05' },
      'field-needed',
      'rhythm'
    ],
    [
      'a rhythm in hours',
      { anchor: '2026-03-05', ask: 'renew', at: '2026-03-05', rhythm: { n: 1, unit: 'hour' } },
      'rhythm-unit',
      'rhythm.unit'
    ],
    [
      'a rhythm that is no rule',
      { anchor: '2026-03-05', ask: 'renew', at: '2026-03-05', rhythm: 'FREQ=OFTEN' },
      'rrule-format',
      'rhythm'
    ],
    [
      'a pause that ends before it begins',
      {
        anchor: '2026-03-05',
        ask: 'overdue',
        at: '2026-03-09T00:00Z',
        pauses: [{ from: '2026-03-07T00:00Z', to: '2026-03-06T00:00Z' }]
      },
      'pause-order',
      'pauses.0.to'
    ],
    [
      'a week from a date that does not exist',
      { anchor: '2026-03-05', calendar: { week: {}, weeks: [{ from: '2026-13-01', week: {} }] } },
      'date-impossible',
      'calendar.weeks.0.from'
    ]
  ])('%s', (_, ringCase, code, field) => {
    expect(() => answerCase(ringCase)).toThrow(expect.objectContaining({ code, field }));
  });

  it.each([
    ['no frequency', 'COUNT=3'],
    ['a frequency that is none', 'FREQ=FORTNIGHTLY'],
    ['a part twice', 'FREQ=DAILY;COUNT=1;COUNT=2'],
    ['COUNT beside UNTIL', 'FREQ=DAILY;COUNT=1;UNTIL=20260101'],
    ['a 13th month', 'FREQ=YEARLY;BYMONTH=13'],
    ['day 0', 'FREQ=MONTHLY;BYMONTHDAY=0'],
    ['a numbered weekday in a week', 'FREQ=WEEKLY;BYDAY=2MO'],
    ['a week number in a month', 'FREQ=MONTHLY;BYWEEKNO=3'],
    ['positions of nothing', 'FREQ=DAILY;BYSETPOS=1'],
    ['UNTIL on 30 February', 'FREQ=DAILY;UNTIL=20260230'],
    ['SKIP without a scale', 'FREQ=MONTHLY;SKIP=BACKWARD'],
    ['no step', 'FREQ=DAILY;INTERVAL=0'],
    ['something else', 'every second Tuesday']
  ])('a recurrence rule with %s', (_, rrule) => {
    expect(() => expandCase({ rrule, start: '2026-01-01' })).toThrow(
      expect.objectContaining({ code: 'rrule-format', field: 'rrule' })
    );
  });

  it('of rules that never produce a date end, and one every second goes on', () => {
    expect(expandCase({ rrule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', start: '2026-01-01' })).toEqual({
      occurrences: []
    });
    expect(expandCase({ rrule: 'FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30', start: '2026-01-01' })).toEqual({
      occurrences: []
    });
    expect(() => expandCase({ rrule: 'FREQ=MINUTELY;INTERVAL=2;BYMINUTE=1', start: '2026-01-01' })).toThrow(
      expect.objectContaining({ code: 'rrule-barren', field: 'rrule' })
    );
    expect(expandCase({ rrule: 'FREQ=SECONDLY', start: '2026-01-01' }).occurrences).toHaveLength(1_000);
  });
});
