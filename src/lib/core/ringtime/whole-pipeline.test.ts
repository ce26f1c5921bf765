import { describe, expect, it } from 'vitest';
import { NO_LEAVE, parseLeave } from '../calendar/leave.ts';
import { ANY_TIME } from '../ring/hold.ts';
import { leaving } from '../ring/leaving.ts';
import type { Reader } from '../ring/reader.ts';
import { zoneNamed } from '../time/zone.ts';
import { answerCase } from './answer.ts';
import type { RingCase } from './case.ts';
import { MON_FRI, SUN_THU } from './weeks.fixture.ts';

/** Leave, stand-ins, late choices, repeats, and what is refused: the worked examples of docs/timing.md and their neighbours. */

describe('leave', () => {
  const kochi: RingCase = {
    anchor: '2026-03-09',
    time: '09:00',
    zone: 'Asia/Kolkata',
    hold: { calendar: MON_FRI },
    leave: [{ from: '2026-03-09', to: '2026-03-13' }]
  };
  const halifax = { zone: 'America/Halifax', calendar: MON_FRI };

  it('goes to the stand-in, within the stand-in’s reach and on their wall', () => {
    expect(answerCase({ ...kochi, standIn: halifax })).toMatchObject({
      instant: '2026-03-09T12:00:00Z',
      local: '2026-03-09T09:00:00-03:00[America/Halifax]',
      why: expect.arrayContaining([expect.objectContaining({ code: 'away-stand-in' })])
    });
  });

  it('waits for the first opening after it', () => {
    expect(answerCase(kochi).local).toBe('2026-03-16T09:00:00+05:30[Asia/Kolkata]');
    const half = { ...kochi, leave: [{ from: '2026-03-09', to: '2026-03-09T13:00' }] };
    expect(answerCase(half).local).toBe('2026-03-09T13:00:00+05:30[Asia/Kolkata]');
    // Leave that ends on closing ends with the next opening, although the instant of closing is inside reach.
    const untilClosing = { ...kochi, leave: [{ from: '2026-03-09', to: '2026-03-09T17:00' }] };
    expect(answerCase(untilClosing).local).toBe('2026-03-10T09:00:00+05:30[Asia/Kolkata]');
    // Without a hold it is the first instant after the leave.
    expect(answerCase({ ...kochi, hold: undefined }).instant).toBe('2026-03-13T18:30:00Z');
  });

  it('goes to the manager when the stand-in is away, and waits when the manager is too', () => {
    const away = { ...halifax, leave: [{ from: '2026-03-09', to: '2026-03-10' }] };
    const manager = { zone: 'Asia/Muscat', calendar: SUN_THU };
    expect(answerCase({ ...kochi, standIn: away, manager }).local).toBe(
      '2026-03-09T08:00:00+04:00[Asia/Muscat]'
    );
    expect(answerCase({ ...kochi, away: 'pass', standIn: halifax, manager }).local).toBe(
      '2026-03-09T08:00:00+04:00[Asia/Muscat]'
    );
    const both = {
      ...kochi,
      standIn: away,
      manager: { ...manager, leave: [{ from: '2026-03-08', to: '2026-03-12' }] }
    };
    expect(answerCase(both).local).toBe('2026-03-16T09:00:00+05:30[Asia/Kolkata]');
  });

  it('with nobody named to stand in goes to a manager who is, and waits where it is not asked to', () => {
    const manager = { zone: 'Asia/Muscat', calendar: SUN_THU };
    expect(answerCase({ ...kochi, away: 'stand-in', manager }).local).toBe(
      '2026-03-09T08:00:00+04:00[Asia/Muscat]'
    );
    expect(answerCase({ ...kochi, away: 'stand-in' }).local).toBe('2026-03-16T09:00:00+05:30[Asia/Kolkata]');
    // The default of this command is to wait where no stand-in is given.
    expect(answerCase({ ...kochi, manager }).local).toBe('2026-03-16T09:00:00+05:30[Asia/Kolkata]');
  });

  it('on a date that the zone jumped over is no leave', () => {
    const apia: RingCase = { anchor: '2011-12-29', time: '09:00', zone: 'Pacific/Apia' };
    const skipped = { from: '2011-12-30', to: '2011-12-30' };
    expect(answerCase({ ...apia, leave: [skipped] }).instant).toBe('2011-12-29T19:00:00Z');
    // From the day before until the end of the skipped one it ends where the 31st begins.
    const over = { ...apia, leave: [{ from: '2011-12-29', to: '2011-12-30' }] };
    expect(answerCase(over).instant).toBe('2011-12-30T10:00:00Z');
    const backwards = () => answerCase({ ...apia, leave: [{ from: '2011-12-31', to: '2011-12-30' }] });
    expect(backwards).toThrow(expect.objectContaining({ code: 'leave-order', field: 'leave.0.to' }));
  });

  it('asks a stand-in’s stand-in, three at most', () => {
    const chain = (links: number): RingCase['standIn'] =>
      links === 0
        ? { zone: 'Europe/Lisbon' }
        : {
            zone: 'Asia/Tokyo',
            leave: [{ from: '2026-03-01', to: '2026-03-31' }],
            standIn: chain(links - 1)
          };
    expect(answerCase({ ...kochi, standIn: chain(2) }).local).toBe(
      '2026-03-09T03:30:00+00:00[Europe/Lisbon]'
    );
    expect(answerCase({ ...kochi, standIn: chain(3) }).local).toBe('2026-03-16T09:00:00+05:30[Asia/Kolkata]');
  });

  it('of stand-ins in a circle ends with the manager, else waits', () => {
    const zone = zoneNamed('UTC');
    const leave = parseLeave([{ from: '2026-03-09', to: '2026-03-10' }], zone);
    const person = (): Reader => ({
      zone,
      reach: ANY_TIME,
      base: null,
      leave,
      standInAt: () => null,
      manager: null
    });
    const [a, b] = [person(), person()];
    a.standInAt = () => b;
    b.standInAt = () => a;
    const at = Date.parse('2026-03-09T09:00Z');
    expect(leaving(at, a, 'stand-in')).toEqual({ reader: a, at: Date.parse('2026-03-11T00:00Z') });
    const manager = { ...person(), leave: NO_LEAVE };
    a.manager = manager;
    expect(leaving(at, a, 'stand-in')).toEqual({ reader: manager, at });
  });

  it('of ten years is never reachable', () => {
    expect(answerCase({ ...kochi, leave: [{ from: '2026-01-01', to: '2035-12-31' }] })).toMatchObject({
      instant: null,
      why: expect.arrayContaining([expect.objectContaining({ code: 'never-reachable' })])
    });
  });
});

describe('the edges of what is handled', () => {
  const day = { anchor: '2026-03-05', calendar: MON_FRI };

  it('are reached from inside', () => {
    expect(answerCase({ ...day, anchor: '2200-12-31', offset: { n: -1, unit: 'workhour' } }).instant).toBe(
      '2200-12-31T16:00:00Z'
    );
    expect(
      answerCase({ ...day, anchor: '1900-01-01', as: 'start', offset: { n: 1, unit: 'workhour' } }).instant
    ).toBe('1900-01-01T10:00:00Z');
  });

  it.each([
    [1_000_000, 'workhour'],
    [-1_000_000, 'workhour'],
    [110_000, 'workday'],
    [-110_000, 'workday']
  ] as const)('are not passed by %i %ss, which is no want of working time', (n, unit) => {
    expect(() => answerCase({ ...day, offset: { n, unit } })).toThrow(
      expect.objectContaining({ code: 'date-out-of-range' })
    );
    expect(() => answerCase({ ...day, calendar: { week: {} }, offset: { n, unit } })).toThrow(
      expect.objectContaining({ code: 'no-working-time' })
    );
  });

  it('close of business is read on the wall of the calendar that names a zone', () => {
    const calendar = { ...MON_FRI, zone: 'America/New_York' };
    const due = { anchor: '2026-03-05', zone: 'Europe/Lisbon', calendar, endOfDay: 'close' as const };
    expect(answerCase({ ...due, ask: 'dueMoment' }).instant).toBe('2026-03-05T22:00:00Z');
    expect(answerCase({ ...due, offset: { n: -1, unit: 'hour' } }).instant).toBe('2026-03-05T21:00:00Z');
  });
});

describe('a ladder', () => {
  const rung: RingCase = {
    anchor: '2026-03-06',
    zone: 'America/Halifax',
    offset: { n: 12, unit: 'workhour' },
    calendar: MON_FRI
  };

  it('goes on a day later with leave on Tuesday and the clock stopped', () => {
    const own = { ...MON_FRI, closed: ['2026-03-10'] };
    expect(answerCase({ ...rung, calendar: own }).instant).toBe('2026-03-11T16:00:00Z');
  });

  it('reaches its manager in Muscat at the next opening there', () => {
    const held = answerCase({ ...rung, hold: { zone: 'Asia/Muscat', calendar: SUN_THU } });
    expect(held).toMatchObject({ instant: '2026-03-11T04:00:00Z', heldFrom: '2026-03-10T16:00:00Z' });
  });
});

describe('a ring that would be late', () => {
  // An hour before the end of Friday 6 March: outside reach, held to Monday.
  const late: RingCase = {
    anchor: '2026-03-06',
    zone: 'Europe/Lisbon',
    offset: { n: -1, unit: 'hour' },
    hold: { calendar: MON_FRI }
  };

  it.each([
    ['keep', '2026-03-09T09:00:00Z', true],
    ['ring-anyway', '2026-03-06T23:00:00Z', undefined],
    ['forward', '2026-03-06T17:00:00Z', undefined],
    ['skip', null, undefined]
  ] as const)('%s', (ifLate, instant, lateBell) => {
    const answer = answerCase({ ...late, ifLate });
    expect([answer.instant, answer.lateBell]).toEqual([instant, lateBell]);
  });

  it('is brought forward past leave and quiet hours, and kept where nothing lies before it', () => {
    const forward = (rest: Partial<RingCase>) => answerCase({ ...late, ifLate: 'forward', ...rest }).instant;
    expect(forward({ leave: [{ from: '2026-03-05T12:00', to: '2026-03-06' }] })).toBe('2026-03-05T11:59:00Z');
    expect(forward({ hold: { quiet: ['20:00-07:00'] }, anchor: '2026-03-06', time: undefined })).toBe(
      '2026-03-06T19:59:00Z'
    );
    expect(forward({ leave: [{ from: '2024-01-01', to: '2026-03-06' }] })).toBe('2026-03-09T09:00:00Z');
  });

  it('is none where somebody stands in at the ring instant, whatever becomes of it', () => {
    // Nora is there on Friday evening, and at work on Monday.
    const standIn = { zone: 'America/Halifax', calendar: MON_FRI };
    const covered = { ...late, leave: [{ from: '2026-03-06', to: '2026-03-10' }], standIn };
    for (const ifLate of ['keep', 'ring-anyway', 'forward', 'skip'] as const) {
      const { instant, lateBell } = answerCase({ ...covered, ifLate });
      expect([ifLate, instant, lateBell]).toEqual([ifLate, '2026-03-09T12:00:00Z', undefined]);
    }
  });

  it('is left alone where its ring instant is past its use-by before anything carries it', () => {
    const past: RingCase = {
      ...late,
      anchor: '2026-03-05T16:00',
      offset: { n: 0, unit: 'day' },
      time: '18:00'
    };
    for (const ifLate of ['keep', 'ring-anyway', 'forward', 'skip'] as const) {
      const { instant, lateBell } = answerCase({ ...past, ifLate });
      expect([ifLate, instant, lateBell]).toEqual([ifLate, '2026-03-06T09:00:00Z', true]);
    }
  });

  it('is left alone when it is not carried, and after the date', () => {
    const after = { ...late, offset: { n: 1, unit: 'hour' as const }, ifLate: 'skip' as const };
    expect(answerCase(after)).toMatchObject({ instant: '2026-03-09T09:00:00Z' });
    const onTheDay: RingCase = {
      anchor: '2026-03-06',
      anchorZone: 'Asia/Tokyo',
      time: '16:00',
      zone: 'Europe/Lisbon',
      ifLate: 'skip'
    };
    expect(answerCase(onTheDay)).toMatchObject({ instant: '2026-03-06T16:00:00Z', lateBell: true });
  });
});

describe('repeats', () => {
  it('at one instant are one, of which the latest is described', () => {
    const monday = answerCase({
      ...{ anchor: '2026-01-10', time: '09:00', zone: 'Europe/Lisbon', calendar: MON_FRI },
      ...{ closedDay: 'later', repeat: { n: 1, unit: 'day', count: 2 } }
    });
    expect(monday).toMatchObject({
      instant: '2026-01-12T09:00:00Z',
      instants: ['2026-01-12T09:00:00Z', '2026-01-13T09:00:00Z'],
      why: expect.arrayContaining([
        expect.objectContaining({ code: 'repeat', params: expect.objectContaining({ k: 2 }) })
      ])
    });
    // Held to one instant they are one too, also when only one is asked for.
    const held = answerCase({
      ...{ anchor: '2026-01-10', time: '08:00', zone: 'Europe/Lisbon', hold: { calendar: MON_FRI } },
      repeat: { n: 1, unit: 'day', count: 1 }
    });
    expect(held).toMatchObject({ instants: ['2026-01-12T09:00:00Z'] });
    expect(JSON.stringify(held.why)).toContain('Repeat 2, 2 days later, is Monday 12 January 2026.');
  });

  const repeat = (rest: RingCase) => (answerCase(rest).instants as string[]).map((text) => text.slice(0, 16));

  it('count from the first ring before any closed-day rule: the 31st is remembered', () => {
    expect(
      repeat({ anchor: '2026-01-31', repeat: { n: 1, unit: 'month', count: 5 } }).map((text) =>
        text.slice(0, 10)
      )
    ).toEqual([...['2026-01-31', '2026-02-28', '2026-03-31', '2026-04-30', '2026-05-31']]);
    const earlier = { anchor: '2026-01-31', closedDay: 'earlier' as const, calendar: MON_FRI };
    expect(
      repeat({ ...earlier, repeat: { n: 1, unit: 'month', count: 3 } }).map((text) => text.slice(0, 10))
    ).toEqual([...['2026-01-30', '2026-02-27', '2026-03-31']]);
  });

  it('that end at the same instant are one, and use up no count', () => {
    // Daily from Friday at 18:00, held to working hours: Friday's, Saturday's and Sunday's meet on Monday at 09:00.
    const daily: RingCase = {
      anchor: '2026-03-06',
      time: '18:00',
      hold: { calendar: MON_FRI },
      repeat: { n: 1, unit: 'day', count: 3 }
    };
    expect(repeat(daily)).toEqual(['2026-03-09T09:00', '2026-03-10T09:00', '2026-03-11T09:00']);
  });

  it('in hours pass in hours over a clock change; in days keep the wall time', () => {
    const over = (unit: 'hour' | 'day', n: number) =>
      repeat({ anchor: '2026-03-07', time: '12:00', zone: 'America/Halifax', repeat: { n, unit, count: 2 } });
    expect([over('hour', 24), over('day', 1)]).toEqual([
      ['2026-03-07T16:00', '2026-03-08T16:00'],
      ['2026-03-07T16:00', '2026-03-08T15:00']
    ]);
  });

  it('in working hours run on the calendar', () => {
    const lead: RingCase = {
      anchor: '2026-03-06T09:00',
      as: 'start',
      offset: { n: 0, unit: 'workhour' },
      calendar: MON_FRI
    };
    expect(repeat({ ...lead, repeat: { n: 6, unit: 'workhour', count: 3 } })).toEqual([
      ...['2026-03-06T09:00', '2026-03-06T15:00', '2026-03-09T13:00']
    ]);
  });
});

describe('weeks that change', () => {
  it('hold from their date on', () => {
    const calendar = { week: MON_FRI.week, weeks: [{ from: '2026-03-09', week: SUN_THU.week }] };
    const next = (anchor: string) => answerCase({ anchor, offset: { n: 1, unit: 'workday' }, calendar }).date;
    expect([next('2026-03-05'), next('2026-03-06'), next('2026-03-12'), next('2026-03-15')]).toEqual([
      ...['2026-03-06', '2026-03-09', '2026-03-15', '2026-03-16']
    ]);
    const hours = answerCase({
      anchor: '2026-03-06T16:00',
      as: 'start',
      offset: { n: 2, unit: 'workhour' },
      calendar
    });
    expect(hours.instant).toBe('2026-03-09T09:00:00Z');
  });
});
