import type { CompiledCalendar } from '../calendar/compiled.ts';
import { MS_PER_DAY, MS_PER_MINUTE, formatDay, type Day } from '../time/day.ts';
import { formatZoned, instantOnWall, type Moment } from '../time/instant.ts';
import { formatTimeOfDay, type MinuteOfDay } from '../time/time-of-day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { LeadTiming } from './lead.ts';
import type { RingContext } from './ring-context.ts';
import type { Shift } from './shift.ts';
import type { WhyStep } from './why.ts';

/** What the anchor is. */
export function traceAnchor(anchor: Moment, { kind, name, zone }: RingContext, trace: WhyStep[]): void {
  if (anchor.minute === null) {
    trace.push({ code: 'anchor-date', params: { kind: name ?? kind, date: formatDay(anchor.day) } });
    return;
  }
  const own = anchor.zone ?? zone;
  const instant = formatZoned(instantOnWall(anchor.day, anchor.minute, own), own);
  trace.push({ code: 'anchor-date-time', params: { kind: name ?? kind, instant, zone: own.name } });
}

/** What the offset leads to; nothing where it leads nowhere else. */
export function traceOffset(
  lead: LeadTiming,
  from: string,
  to: string,
  { calendar }: RingContext,
  trace: WhyStep[]
): void {
  if (lead.n === 0 && from === to) return;
  const params: Record<string, string | number> = { n: lead.n, unit: lead.unit, from, to };
  if (lead.unit === 'workday') params.closed = namedClosedDays(from, to, calendar);
  trace.push({ code: 'offset', params });
}

/** What the repeat leads to. */
export function traceRepeat({ k, n, unit }: Shift, to: string, trace: WhyStep[]): void {
  trace.push({ code: 'repeat', params: { k, n: k * n, unit, to } });
}

/** The named holidays that a count of working days passed over, as `2026-03-04 Holi, …`. */
function namedClosedDays(from: string, to: string, { calendar }: CompiledCalendar): string {
  const [first, last] = from < to ? [from, to] : [to, from];
  return [...calendar.exceptions]
    .filter(([, { intervals, name }]) => intervals.length === 0 && name !== null)
    .map(([day, { name }]) => ({ date: formatDay(day), name }))
    .filter(({ date }) => date >= first && date <= last)
    .sort((a, b) => (a.date < b.date ? -1 : 1))
    .map(({ date, name }) => `${date} ${name}`)
    .join(', ');
}

/** That the clocks went forward over the wall time, or back so that it comes twice. */
export function traceClockChange(
  day: Day,
  minute: MinuteOfDay,
  instant: InstantMs,
  zone: Zone,
  trace: WhyStep[]
): void {
  const wished = day * MS_PER_DAY + minute * MS_PER_MINUTE;
  const params = {
    time: formatTimeOfDay(minute),
    date: formatDay(day),
    zone: zone.nameAt(instant),
    instant: formatZoned(instant, zone)
  };
  if (zone.localOf(instant) !== wished) trace.push({ code: 'clock-gap', params });
  else if (zone.isRepeated(wished)) trace.push({ code: 'clock-overlap', params });
}
