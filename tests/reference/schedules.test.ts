import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { CompiledCalendar } from '../../src/lib/core/calendar/compiled.ts';
import { WEEKDAYS, parseCalendar } from '../../src/lib/core/calendar/spec.ts';
import { compileLead } from '../../src/lib/core/forecast/facts/compile-lead.ts';
import { LeadClocks, type LeadClock } from '../../src/lib/core/forecast/plan/lead-clock.ts';
import { owedByMove } from '../../src/lib/core/forecast/plan/seats.ts';
import { occurrenceName } from '../../src/lib/core/recurrence/schedule.ts';
import type { ScheduleLead } from '../../src/lib/core/rule/lead-model.ts';
import { MS_PER_MINUTE } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';

/**
 * 40 schedules on six clocks over a year with its clock changes, and 240 moves from one clock to another, against python-dateutil and
 * zoneinfo. The file is made by scripts/references/make.py, which walks closed days one at a time; it names the versions that made it.
 */
interface Fixture {
  clocks: { zone: string; mask: string; closed: string[] }[];
  cases: {
    rule: string;
    start: string;
    closedDay: ScheduleLead['closedDay'];
    rings: [at: number, occurrence: string][][];
  }[];
  moves: { case: number; from: number; to: number; at: number; heard: number[] }[];
}
const { clocks, cases, moves } = JSON.parse(
  readFileSync(new URL('fixtures/schedules.json', import.meta.url), 'utf8')
) as Fixture;

const calendars = clocks.map(({ zone, mask, closed }, id) => {
  const open = WEEKDAYS.filter((_, i) => mask[i] === '1').map((day) => [day, ['09:00-17:00']]);
  return new CompiledCalendar(parseCalendar({ week: Object.fromEntries(open), closed }), zoneNamed(zone), id);
});

function clocksOf({ rule, start, closedDay }: Fixture['cases'][number]): LeadClock[] {
  const [day, time] = start.split('T') as [string, string];
  const lead = compileLead(
    {
      ...{ kind: 'schedule', id: 'schedule', on: true, only: null, zone: { of: 'owner' } },
      ...{ rrule: rule, start: day, time, closedDay, oncePerDate: false }
    },
    0
  );
  const all = new LeadClocks();
  return calendars.map((calendar) => all.of(lead, calendar.zone, calendar));
}

/** Rings from one instant on until another, in minutes. */
function* ringsOn(clock: LeadClock, from: number, until: number) {
  for (let ring = clock.nextAfter(from); ring && ring.at < until; ring = clock.nextAfter(ring.at)) yield ring;
}

describe('schedules on clocks, by dateutil and zoneinfo', () => {
  it.each(cases.map((one, i) => ({ ...one, i })))('$i: $rule from $start, $closedDay', (one) => {
    clocksOf(one).forEach((clock, i) => {
      const ours = [...ringsOn(clock, 0, Date.parse('2026-12-20'))].slice(0, one.rings[i]!.length);
      const named = ours.map(({ at, last }) => [at / MS_PER_MINUTE, occurrenceName(last).slice(0, 16)]);
      expect([clocks[i]!.zone, named]).toEqual([clocks[i]!.zone, one.rings[i]]);
    });
  });

  it('whoever changes clock between two occurrences hears of each neither twice nor never', () => {
    const made = cases.map(clocksOf);
    let atOnce = 0;
    for (const move of moves) {
      const [from, to] = [made[move.case]![move.from]!, made[move.case]![move.to]!];
      const at = move.at * MS_PER_MINUTE;
      const before = [...ringsOn(from, 0, at + 1)];
      const told = new Set(before.map(({ last }) => last));
      const heard = before.map((ring) => ring.at);
      const seat = (clock: LeadClock) => [{ personId: 0, clock }];
      const passed = to.lastBy(at);
      if (owedByMove(seat(from), seat(to), at).length > 0 && !told.has(passed!.last)) {
        atOnce++;
        told.add(passed!.last);
        heard.push(at);
      }
      for (const ring of ringsOn(to, at, Date.parse('2026-12-20')))
        if (!told.has(ring.last)) heard.push(ring.at);
      const shown = heard.slice(Math.max(0, before.length - 3), before.length + 8);
      expect([move, shown.map((one) => one / MS_PER_MINUTE)]).toEqual([move, move.heard]);
    }
    // The moves include such as are owed something.
    expect(atOnce).toBeGreaterThan(10);
  });
});
