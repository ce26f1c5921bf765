import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CalendarSpec } from '../../src/lib/core/calendar/spec.ts';
import { CLOSED_DAY_RULES, UNITS, isDayLevel } from '../../src/lib/core/ring/lead.ts';
import { answerCase } from '../../src/lib/core/ringtime/answer.ts';
import type { ReaderSpec, RingCase } from '../../src/lib/core/ringtime/case.ts';
import { walk } from './plain-walk.ts';
import { drawn } from '../support/drawn.ts';

/** Ten thousand random cases of the whole pipeline against a walk minute by minute (plain-walk.ts). */
const ZONES = [
  'America/Halifax',
  'Europe/Lisbon',
  'Asia/Kolkata',
  'Australia/Hobart',
  'Australia/Lord_Howe',
  'Pacific/Chatham'
];
const days = (names: string, hours: string[]) =>
  Object.fromEntries(names.split(' ').map((day) => [day, hours]));
const CALENDARS: CalendarSpec[] = [
  { week: days('mon tue wed thu fri', ['09:00-17:00']), closed: ['2026-03-09', '2026-04-03', '2026-04-06'] },
  {
    week: days('sun mon tue wed thu', ['08:00-12:00', '13:00-16:00']),
    hours: { '2026-03-11': ['10:00-11:00'] }
  },
  { week: days('mon tue wed thu fri', ['22:00-06:00']), closed: ['2026-03-30'] },
  { week: { ...days('mon tue wed thu fri', ['09:00-17:30']), sat: ['09:00-13:00'] }, closed: ['2026-03-04'] },
  { week: days('mon tue wed', ['00:00-24:00']), closed: ['2026-03-31'] }
];

const zone = fc.constantFrom(...ZONES);
const calendar = fc.constantFrom(...CALENDARS);
const date = fc
  .integer({ min: 0, max: 59 })
  .map((n) => new Date(Date.UTC(2026, 1, 20 + n)).toISOString().slice(0, 10));
const time = fc.constantFrom('00:00', '02:15', '02:30', '08:00', '09:00', '12:30', '17:00', '17:01', '23:30');
const leave = fc.array(
  fc
    .tuple(date, fc.integer({ min: 0, max: 9 }), fc.boolean(), fc.boolean())
    .map(([from, length, half, halfEnd]) => {
      const last = new Date(Date.parse(`${from}T00:00Z`) + length * 86_400_000).toISOString().slice(0, 10);
      return { from: half ? `${from}T13:00` : from, to: halfEnd && length > 0 ? `${last}T12:00` : last };
    }),
  { maxLength: 2 }
);
const reader = (): fc.Arbitrary<ReaderSpec> => fc.record({ zone, calendar, leave });

const anyCase: fc.Arbitrary<RingCase> = fc
  .record(
    {
      anchor: fc.oneof(
        date,
        fc.tuple(date, time).map(([day, at]) => `${day}T${at}`)
      ),
      anchorZone: zone,
      as: fc.constantFrom('due', 'start'),
      n: fc.integer({ min: -12, max: 12 }),
      unit: fc.constantFrom(...UNITS),
      closedDay: fc.constantFrom(...CLOSED_DAY_RULES),
      time,
      zone,
      calendar,
      endOfDay: fc.constantFrom('midnight', 'close'),
      hold: fc.record({ zone, calendar }),
      leave,
      away: fc.constantFrom('stand-in', 'pass', 'wait'),
      standIn: reader(),
      manager: reader()
    },
    { requiredKeys: ['anchor', 'n', 'unit', 'zone'] }
  )
  .map(({ n, unit, time: at, ...rest }): RingCase => {
    const short = unit === 'month' ? Math.sign(n) : n;
    // A closed-day rule belongs to dates; the walk has no open day to find in a calendar that is absent.
    const lead = { offset: { n: short, unit }, ...(isDayLevel(unit) && at ? { time: at } : {}) };
    const ruled =
      unit.startsWith('workm') || unit.startsWith('workh') || !rest.calendar
        ? { closedDay: 'as-is' as const }
        : {};
    return { ...rest, ...lead, ...ruled };
  });

describe('the pipeline', () => {
  it('is what a walk minute by minute finds, in ten thousand random cases', () => {
    fc.assert(
      fc.property(anyCase, (ringCase) => {
        const { instant, lateBell = false } = answerCase(ringCase);
        // For a start the use-by is the end of its day, which the walk leaves alone.
        const walked = walk(ringCase);
        expect(instant).toBe(walked.instant);
        if (ringCase.as !== 'start') expect(lateBell).toBe(walked.lateBell);
      }),
      drawn(10_000)
    );
  }, 300_000);
});
