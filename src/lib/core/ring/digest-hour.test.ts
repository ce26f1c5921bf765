import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE, parseLeave } from '../calendar/leave.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { parseInstant } from '../time/instant.ts';
import { zoneNamed } from '../time/zone.ts';
import { nextDigestHour } from './digest-hour.ts';

const zone = zoneNamed('America/Halifax');
const open = ['09:00-17:00'];
const calendar = new CompiledCalendar(
  parseCalendar({ week: { mon: open, tue: open, wed: open, thu: open, fri: open }, closed: ['2026-03-09'] }),
  zone
);
const next = (after: string, leave = NO_LEAVE) =>
  new Date(nextDigestHour(parseInstant(after), 8 * 60, { zone, calendar, leave })).toISOString();

describe('the next digest hour', () => {
  it('is that time of their day on their own working days, strictly after', () => {
    expect(next('2026-03-05T11:59Z')).toBe('2026-03-05T12:00:00.000Z');
    expect(next('2026-03-05T12:00Z')).toBe('2026-03-06T12:00:00.000Z');
    // Over a weekend with a clock change and a closed Monday.
    expect(next('2026-03-06T12:00Z')).toBe('2026-03-10T11:00:00.000Z');
  });

  it('waits for the end of leave, and is never without working days', () => {
    const leave = parseLeave([{ from: '2026-03-06', to: '2026-03-10T12:00' }], zone);
    expect(next('2026-03-05T12:00Z', leave)).toBe('2026-03-11T11:00:00.000Z');
    const closed = new CompiledCalendar(parseCalendar({ week: {} }), zone);
    expect(
      nextDigestHour(parseInstant('2026-03-05T12:00Z'), 480, { zone, calendar: closed, leave })
    ).toBeNaN();
  });
});
