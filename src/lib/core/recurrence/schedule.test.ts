import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import type { ClosedDayRule } from '../ring/lead.ts';
import { parseDay } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { parseRecurrenceRule } from './rrule.ts';
import { scheduleRings } from './schedule.ts';

const LISBON = zoneNamed('Europe/Lisbon');
const open = ['09:00-17:00'];
const calendar = new CompiledCalendar(
  parseCalendar({ week: { mon: open, tue: open, wed: open, thu: open, fri: open }, closed: ['2026-04-03'] }),
  LISBON
);
const rings = (rrule: string, start: string, closedDay: ClosedDayRule, count: number) => {
  const found: string[] = [];
  const schedule = {
    rule: parseRecurrenceRule(rrule),
    start: { day: parseDay(start), timeMs: 39_600_000 },
    zone: LISBON,
    closedDay
  };
  for (const instant of scheduleRings(schedule, calendar)) {
    found.push(new Date(instant).toISOString().slice(0, 16));
    if (found.length === count) break;
  }
  return found;
};

describe('a schedule', () => {
  it('leaves closed days out, or moves them, and keeps its wall time over a clock change', () => {
    // Lisbon puts its clocks forward on 29 March 2026; Friday 3 April is closed.
    expect(rings('FREQ=WEEKLY;BYDAY=FR', '2026-03-20', 'skip', 3)).toEqual([
      '2026-03-20T11:00',
      '2026-03-27T11:00',
      '2026-04-10T10:00'
    ]);
    expect(rings('FREQ=WEEKLY;BYDAY=FR', '2026-03-27', 'earlier', 2)).toEqual([
      '2026-03-27T11:00',
      '2026-04-02T10:00'
    ]);
  });

  it('rings once where two occurrences meet', () => {
    expect(rings('FREQ=DAILY', '2026-03-06', 'later', 3)).toEqual([
      '2026-03-06T11:00',
      '2026-03-09T11:00',
      '2026-03-10T11:00'
    ]);
  });

  it('is the last working day of each month by its closed-day rule', () => {
    expect(rings('FREQ=MONTHLY;BYMONTHDAY=-1', '2026-01-01', 'earlier-in-month', 3)).toEqual([
      ...['2026-01-30T11:00', '2026-02-27T11:00', '2026-03-31T10:00']
    ]);
  });

  it('does not ring more often than every five minutes', () => {
    expect(rings('FREQ=MINUTELY;INTERVAL=5', '2026-03-06', 'skip', 3)).toHaveLength(3);
    expect(() => rings('FREQ=MINUTELY;INTERVAL=4', '2026-03-06', 'skip', 3)).toThrow(
      expect.objectContaining({ code: 'schedule-too-often' })
    );
  });
});
