import { describe, expect, it } from 'vitest';
import { expandCase, type ExpandCase } from '../../src/lib/core/ringtime/expand.ts';

/**
 * The printed examples of RFC 5545 §3.8.5.3, "Recurrence Rule", with their printed results. All start on 2 September 1997, 09:00 in
 * New York unless they say otherwise. Dates are written `MM-DD` within a year, as the document lists them.
 */
const START = '1997-09-02T09:00';
const ZONE = 'America/New_York';

function expand(rrule: string, rest: Partial<ExpandCase> = {}): string[] {
  const { occurrences } = expandCase({ rrule, start: START, zone: ZONE, ...rest });
  return (occurrences as string[]).map((text) => text.slice(0, 16));
}
/** Dates of one year at 09:00. */
const at9 = (year: number, ...days: string[]) => days.map((day) => `${year}-${day}T09:00`);
const range = (year: number, month: string, from: number, to: number) =>
  at9(
    year,
    ...Array.from({ length: to - from + 1 }, (_, i) => `${month}-${String(from + i).padStart(2, '0')}`)
  );

describe('RFC 5545 §3.8.5.3, the printed examples', () => {
  it('daily for 10 occurrences', () => {
    expect(expand('FREQ=DAILY;COUNT=10')).toEqual(range(1997, '09', 2, 11));
  });

  it('daily until 24 December 1997', () => {
    const found = expand('FREQ=DAILY;UNTIL=19971224T000000Z');
    expect([found.length, found[0], found.at(-1)]).toEqual([113, '1997-09-02T09:00', '1997-12-23T09:00']);
  });

  it('every other day, and every 10 days for 5 occurrences', () => {
    expect(expand('FREQ=DAILY;INTERVAL=2', { count: 5 })).toEqual(
      at9(1997, '09-02', '09-04', '09-06', '09-08', '09-10')
    );
    expect(expand('FREQ=DAILY;INTERVAL=10;COUNT=5')).toEqual(
      at9(1997, '09-02', '09-12', '09-22', '10-02', '10-12')
    );
  });

  it('every day in January for 3 years, written in two ways', () => {
    const start = { start: '1998-01-01T09:00' };
    const yearly = expand('FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA', start);
    expect(yearly).toEqual([1998, 1999, 2000].flatMap((year) => range(year, '01', 1, 31)));
    expect(expand('FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1', start)).toEqual(yearly);
  });

  it('weekly for 10 occurrences', () => {
    expect(expand('FREQ=WEEKLY;COUNT=10')).toEqual(
      at9(1997, '09-02', '09-09', '09-16', '09-23', '09-30', '10-07', '10-14', '10-21', '10-28', '11-04')
    );
  });

  it('weekly until 24 December, and every other week', () => {
    expect(expand('FREQ=WEEKLY;UNTIL=19971224T000000Z')).toHaveLength(17);
    expect(expand('FREQ=WEEKLY;INTERVAL=2;WKST=SU', { count: 8 })).toEqual(
      at9(1997, '09-02', '09-16', '09-30', '10-14', '10-28', '11-11', '11-25', '12-09')
    );
  });

  it('weekly on Tuesday and Thursday for five weeks, by UNTIL and by COUNT', () => {
    const printed = at9(
      1997,
      '09-02',
      '09-04',
      '09-09',
      '09-11',
      '09-16',
      '09-18',
      '09-23',
      '09-25',
      '09-30',
      '10-02'
    );
    expect(expand('FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH')).toEqual(printed);
    expect(expand('FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH')).toEqual(printed);
  });

  it('every other week on Monday, Wednesday and Friday until 24 December, from 1 September', () => {
    expect(
      expand('FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR', {
        start: '1997-09-01T09:00'
      })
    ).toEqual(
      at9(
        1997,
        ...[
          '09-01',
          '09-03',
          '09-05',
          '09-15',
          '09-17',
          '09-19',
          '09-29',
          '10-01',
          '10-03',
          '10-13',
          '10-15',
          '10-17'
        ],
        ...[
          '10-27',
          '10-29',
          '10-31',
          '11-10',
          '11-12',
          '11-14',
          '11-24',
          '11-26',
          '11-28',
          '12-08',
          '12-10',
          '12-12'
        ],
        '12-22'
      )
    );
  });

  it('every other week on Tuesday and Thursday for 8 occurrences', () => {
    expect(expand('FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH')).toEqual(
      at9(1997, '09-02', '09-04', '09-16', '09-18', '09-30', '10-02', '10-14', '10-16')
    );
  });

  it('monthly on the first Friday, for 10 occurrences and until 24 December', () => {
    const start = { start: '1997-09-05T09:00' };
    expect(expand('FREQ=MONTHLY;COUNT=10;BYDAY=1FR', start)).toEqual([
      ...at9(1997, '09-05', '10-03', '11-07', '12-05'),
      ...at9(1998, '01-02', '02-06', '03-06', '04-03', '05-01', '06-05')
    ]);
    expect(expand('FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR', start)).toEqual(
      at9(1997, '09-05', '10-03', '11-07', '12-05')
    );
  });

  it('every other month on the first and last Sunday', () => {
    expect(expand('FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU', { start: '1997-09-07T09:00' })).toEqual([
      ...at9(1997, '09-07', '09-28', '11-02', '11-30'),
      ...at9(1998, '01-04', '01-25', '03-01', '03-29', '05-03', '05-31')
    ]);
  });

  it('monthly on the second-to-last Monday, and on the third-to-last day', () => {
    expect(expand('FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', { start: '1997-09-22T09:00' })).toEqual([
      ...at9(1997, '09-22', '10-20', '11-17', '12-22'),
      ...at9(1998, '01-19', '02-16')
    ]);
    expect(expand('FREQ=MONTHLY;BYMONTHDAY=-3', { start: '1997-09-28T09:00', count: 6 })).toEqual([
      ...at9(1997, '09-28', '10-29', '11-28', '12-29'),
      ...at9(1998, '01-29', '02-26')
    ]);
  });

  it('monthly on the 2nd and 15th, and on the first and last day', () => {
    expect(expand('FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15')).toEqual([
      ...at9(1997, '09-02', '09-15', '10-02', '10-15', '11-02', '11-15', '12-02', '12-15'),
      ...at9(1998, '01-02', '01-15')
    ]);
    expect(expand('FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1', { start: '1997-09-30T09:00' })).toEqual([
      ...at9(1997, '09-30', '10-01', '10-31', '11-01', '11-30', '12-01', '12-31'),
      ...at9(1998, '01-01', '01-31', '02-01')
    ]);
  });

  it('every 18 months on the 10th to 15th', () => {
    expect(
      expand('FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15', { start: '1997-09-10T09:00' })
    ).toEqual([...range(1997, '09', 10, 15), ...range(1999, '03', 10, 13)]);
  });

  it('every Tuesday, every other month', () => {
    expect(expand('FREQ=MONTHLY;INTERVAL=2;BYDAY=TU', { count: 18 })).toEqual([
      ...at9(1997, '09-02', '09-09', '09-16', '09-23', '09-30', '11-04', '11-11', '11-18', '11-25'),
      ...at9(1998, '01-06', '01-13', '01-20', '01-27', '03-03', '03-10', '03-17', '03-24', '03-31')
    ]);
  });

  it('yearly in June and July; every other year in January, February and March', () => {
    expect(expand('FREQ=YEARLY;COUNT=10;BYMONTH=6,7', { start: '1997-06-10T09:00' })).toEqual(
      [1997, 1998, 1999, 2000, 2001].flatMap((year) => at9(year, '06-10', '07-10'))
    );
    expect(expand('FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3', { start: '1997-03-10T09:00' })).toEqual([
      ...at9(1997, '03-10'),
      ...[1999, 2001, 2003].flatMap((year) => at9(year, '01-10', '02-10', '03-10'))
    ]);
  });

  it('every third year on the 1st, 100th and 200th day', () => {
    expect(
      expand('FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200', { start: '1997-01-01T09:00' })
    ).toEqual([
      ...at9(1997, '01-01', '04-10', '07-19'),
      ...at9(2000, '01-01', '04-09', '07-18'),
      ...at9(2003, '01-01', '04-10', '07-19'),
      ...at9(2006, '01-01')
    ]);
  });

  it('the 20th Monday of the year; the Monday of week 20', () => {
    expect(expand('FREQ=YEARLY;BYDAY=20MO', { start: '1997-05-19T09:00', count: 3 })).toEqual([
      ...at9(1997, '05-19'),
      ...at9(1998, '05-18'),
      ...at9(1999, '05-17')
    ]);
    expect(expand('FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', { start: '1997-05-12T09:00', count: 3 })).toEqual([
      ...at9(1997, '05-12'),
      ...at9(1998, '05-11'),
      ...at9(1999, '05-17')
    ]);
  });

  it('every Thursday in March; every Thursday in June, July and August', () => {
    expect(expand('FREQ=YEARLY;BYMONTH=3;BYDAY=TH', { start: '1997-03-13T09:00', count: 11 })).toEqual([
      ...at9(1997, '03-13', '03-20', '03-27'),
      ...at9(1998, '03-05', '03-12', '03-19', '03-26'),
      ...at9(1999, '03-04', '03-11', '03-18', '03-25')
    ]);
    expect(expand('FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8', { start: '1997-06-05T09:00', count: 13 })).toEqual(
      at9(
        1997,
        ...['06-05', '06-12', '06-19', '06-26', '07-03', '07-10', '07-17', '07-24', '07-31'],
        ...['08-07', '08-14', '08-21', '08-28']
      )
    );
  });

  it('every Friday the 13th, the start taken out', () => {
    expect(expand('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', { exdates: [START], count: 5 })).toEqual([
      ...at9(1998, '02-13', '03-13', '11-13'),
      ...at9(1999, '08-13'),
      ...at9(2000, '10-13')
    ]);
  });

  it('the first Saturday after the first Sunday of the month', () => {
    expect(
      expand('FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13', { start: '1997-09-13T09:00', count: 10 })
    ).toEqual([
      ...at9(1997, '09-13', '10-11', '11-08', '12-13'),
      ...at9(1998, '01-10', '02-07', '03-07', '04-11', '05-09', '06-13')
    ]);
  });

  it('every 4 years, the first Tuesday after a Monday in November', () => {
    expect(
      expand('FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8', {
        start: '1996-11-05T09:00',
        count: 3
      })
    ).toEqual([...at9(1996, '11-05'), ...at9(2000, '11-07'), ...at9(2004, '11-02')]);
  });

  it('the third Tuesday, Wednesday or Thursday; the second-to-last weekday', () => {
    expect(expand('FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', { start: '1997-09-04T09:00' })).toEqual(
      at9(1997, '09-04', '10-07', '11-06')
    );
    expect(
      expand('FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2', { start: '1997-09-29T09:00', count: 7 })
    ).toEqual([...at9(1997, '09-29', '10-30', '11-27', '12-30'), ...at9(1998, '01-29', '02-26', '03-30')]);
  });

  it('every 3 hours from 09:00 to 17:00', () => {
    // Printed with UNTIL=19970902T170000Z, which is 13:00 in New York and cannot give the printed 15:00: tested with 17:00 there.
    expect(expand('FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T210000Z')).toEqual([
      '1997-09-02T09:00',
      '1997-09-02T12:00',
      '1997-09-02T15:00'
    ]);
  });

  it('every 15 minutes, every hour and a half, every 20 minutes of the working day', () => {
    expect(expand('FREQ=MINUTELY;INTERVAL=15;COUNT=6').map((text) => text.slice(11))).toEqual([
      ...['09:00', '09:15', '09:30', '09:45', '10:00', '10:15']
    ]);
    expect(expand('FREQ=MINUTELY;INTERVAL=90;COUNT=4').map((text) => text.slice(11))).toEqual([
      ...['09:00', '10:30', '12:00', '13:30']
    ]);
    const daily = expand('FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40', { count: 48 });
    expect([daily[0], daily[1], daily[23], daily[24]]).toEqual([
      ...['1997-09-02T09:00', '1997-09-02T09:20', '1997-09-02T16:40', '1997-09-03T09:00']
    ]);
    expect(expand('FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16', { count: 48 })).toEqual(daily);
  });

  it('the week start matters: every other Tuesday and Sunday', () => {
    const start = { start: '1997-08-05T09:00' };
    expect(expand('FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', start)).toEqual(
      at9(1997, '08-05', '08-10', '08-19', '08-24')
    );
    expect(expand('FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', start)).toEqual(
      at9(1997, '08-05', '08-17', '08-19', '08-31')
    );
  });

  it('a date that does not exist is ignored: the 15th and 30th', () => {
    expect(expand('FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', { start: '2007-01-15T09:00' })).toEqual(
      at9(2007, '01-15', '01-30', '02-15', '03-15', '03-30')
    );
  });
});

describe('RFC 5545 §3.3.5 and RFC 7529 §4.1', () => {
  it('a time that does not exist is read with the offset before the gap, one that exists twice is the first', () => {
    // "If the local time described does not occur … interpreted using the UTC offset before the gap": 02:30 is 03:30 EDT.
    expect(expand('FREQ=DAILY;COUNT=3', { start: '2007-03-10T02:30' })).toEqual([
      ...['2007-03-10T02:30', '2007-03-11T03:30', '2007-03-12T02:30']
    ]);
    const { occurrences } = expandCase({
      rrule: 'FREQ=DAILY;COUNT=2',
      start: '2007-11-03T01:30',
      zone: ZONE
    });
    expect(occurrences).toEqual([
      '2007-11-03T01:30:00-04:00[America/New_York]',
      '2007-11-04T01:30:00-04:00[America/New_York]'
    ]);
  });

  it('SKIP moves what a month lacks to the day before or after', () => {
    const monthly = (skip: string) =>
      expand(`FREQ=MONTHLY;RSCALE=GREGORIAN;SKIP=${skip};COUNT=4`, { start: '2026-01-31T09:00' });
    expect(monthly('OMIT')).toEqual(at9(2026, '01-31', '03-31', '05-31', '07-31'));
    expect(monthly('BACKWARD')).toEqual(at9(2026, '01-31', '02-28', '03-31', '04-30'));
    expect(monthly('FORWARD')).toEqual(at9(2026, '01-31', '03-01', '03-31', '05-01'));
    // RFC 7529 §5, a birthday on 29 February.
    expect(
      expand('FREQ=YEARLY;RSCALE=GREGORIAN;SKIP=FORWARD;COUNT=3', { start: '2012-02-29T09:00' })
    ).toEqual([...at9(2012, '02-29'), ...at9(2013, '03-01'), ...at9(2014, '03-01')]);
  });

  it('an hour passes in an hour, whatever the clocks do', () => {
    const { occurrences } = expandCase({
      rrule: 'FREQ=HOURLY;COUNT=4',
      start: '2026-03-08T00:30',
      zone: ZONE
    });
    expect((occurrences as string[]).map((text) => text.slice(11, 22))).toEqual([
      ...['00:30:00-05', '01:30:00-05', '03:30:00-04', '04:30:00-04']
    ]);
  });
});
