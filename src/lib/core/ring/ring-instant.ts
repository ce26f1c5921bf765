import { MS_PER_DAY, checkDay, formatDay, type Day } from '../time/day.ts';
import { ceilToMinute, formatZoned, instantOnWall, type Moment } from '../time/instant.ts';
import { formatTimeOfDay } from '../time/time-of-day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { closedDay } from './closed-day.ts';
import { isDayLevel, isElapsed, isWorkingTime, type LeadTiming } from './lead.ts';
import { dueMoment, startMoment } from './moments.ts';
import { elapsedMs, offsetDay, offsetElapsed } from './offset.ts';
import { shiftInstant, type Shift } from './shift.ts';
import type { RingContext } from './ring-context.ts';
import { traceAnchor, traceClockChange, traceOffset, traceRepeat } from './ring-trace.ts';
import type { Trace } from './why.ts';

/** What steps 1 to 4 give. Filled in place, so that a forecast of thousands makes no garbage. */
export interface RingInstant {
  /** Instant in ms; NaN when the closed-day rule skipped it. Rounded up to the minute. */
  instant: InstantMs;
  /** The date before step 3, by which rings that end at the same instant are told apart. */
  originDay: Day;
}

/**
 * Steps 1 to 4 of the pipeline: anchor, offset, closed-day rule, wall time and zone.
 * @param out filled in and returned
 * @param trace collects why; null when nobody asks
 * @param shift which repeat of the ring is wanted; null for the first
 * @throws CodedError `no-working-time` or `date-out-of-range`
 */
export function ringInstant(
  lead: LeadTiming,
  anchor: Moment,
  context: RingContext,
  out: RingInstant,
  trace: Trace = null,
  shift: Shift | null = null
): RingInstant {
  if (trace) traceAnchor(anchor, context, trace);
  if (isElapsed(lead.unit)) return fromMoment(lead, anchor, context, out, trace, shift);
  if (isWorkingTime(lead.unit)) return fromWorkingTime(lead, anchor, context, out, trace, shift);

  const ownWall = lead.minute === null && anchor.minute !== null;
  const anchorDay = ownWall ? anchor.day : dateInZone(anchor, context.zone, trace);
  let originDay = checkDay(offsetDay(anchorDay, lead.n, lead.unit, context.calendar.days));
  if (trace) traceOffset(lead, formatDay(anchorDay), formatDay(originDay), context, trace);
  if (shift && shift.k > 0) {
    if (!isDayLevel(shift.unit))
      return shiftedInElapsed(lead, anchor, originDay, ownWall, context, out, trace, shift);
    originDay = checkDay(offsetDay(originDay, shift.k * shift.n, shift.unit, context.calendar.days));
    if (trace) traceRepeat(shift, formatDay(originDay), trace);
  }
  const day = closed(lead, originDay, context, trace);
  out.originDay = originDay;
  if (Number.isNaN(day)) {
    out.instant = NaN;
    return out;
  }
  const minute = ownWall ? anchor.minute! : (lead.minute ?? context.noticeMinute);
  const zone = ownWall ? (anchor.zone ?? context.zone) : context.zone;
  const instant = instantOnWall(day, minute, zone);
  if (trace) {
    const code = ownWall ? 'own-time' : lead.minute !== null ? 'wall-time' : 'notice-time';
    trace.push({
      code,
      params: {
        time: formatTimeOfDay(minute),
        zone: zone.nameAt(instant),
        instant: formatZoned(instant, zone)
      }
    });
    traceClockChange(day, minute, instant, zone, trace);
  }
  out.instant = ceilToMinute(instant);
  return out;
}

/** Minutes and hours pass from the moment itself; a closed-day rule, where one is set, moves the date and keeps the wall time. */
function fromMoment(
  lead: LeadTiming,
  anchor: Moment,
  context: RingContext,
  out: RingInstant,
  trace: Trace,
  shift: Shift | null
): RingInstant {
  const from = momentOf(anchor, context, trace);
  const first = offsetElapsed(from, lead.n, lead.unit as 'minute' | 'hour');
  if (trace)
    traceOffset(lead, formatZoned(from, context.zone), formatZoned(first, context.zone), context, trace);
  return onClosedDay(lead, shifted(first, shift, context, trace), context, out, trace);
}

/** A repeat in minutes, hours or working time of a ring on a date: counted from that date at its wall time. */
function shiftedInElapsed(
  lead: LeadTiming,
  anchor: Moment,
  originDay: Day,
  ownWall: boolean,
  context: RingContext,
  out: RingInstant,
  trace: Trace,
  shift: Shift
): RingInstant {
  const minute = ownWall ? anchor.minute! : (lead.minute ?? context.noticeMinute);
  const zone = ownWall ? (anchor.zone ?? context.zone) : context.zone;
  const first = instantOnWall(originDay, minute, zone);
  return onClosedDay(lead, shifted(first, shift, context, trace), context, out, trace);
}

function shifted(first: InstantMs, shift: Shift | null, context: RingContext, trace: Trace): InstantMs {
  if (!shift || shift.k === 0) return first;
  const instant = shiftInstant(first, shift, context);
  if (trace) traceRepeat(shift, formatZoned(instant, context.zone), trace);
  return instant;
}

/** Step 3 of an instant: where a closed-day rule is set, it moves the date and keeps the wall time. */
function onClosedDay(
  lead: LeadTiming,
  instant: InstantMs,
  context: RingContext,
  out: RingInstant,
  trace: Trace
): RingInstant {
  const local = context.zone.localOf(instant);
  const originDay = checkDay(Math.floor(local / MS_PER_DAY));
  const day = closed(lead, originDay, context, trace);
  out.originDay = originDay;
  const moved = day === originDay ? instant : context.zone.instantOf(local + (day - originDay) * MS_PER_DAY);
  out.instant = ceilToMinute(moved);
  return out;
}

function fromWorkingTime(
  lead: LeadTiming,
  anchor: Moment,
  context: RingContext,
  out: RingInstant,
  trace: Trace,
  shift: Shift | null
): RingInstant {
  const from = momentOf(anchor, context, trace);
  const workingMs = lead.n * elapsedMs(lead.unit as 'workminute' | 'workhour');
  const first = context.calendar.spans.offset(from, workingMs);
  if (trace)
    traceOffset(lead, formatZoned(from, context.zone), formatZoned(first, context.zone), context, trace);
  const instant = shifted(first, shift, context, trace);
  out.originDay = checkDay(context.zone.dayOf(instant));
  out.instant = ceilToMinute(instant);
  return out;
}

/** The moment an anchor stands for: itself, or the end or beginning of its date. */
function momentOf(anchor: Moment, context: RingContext, trace: Trace): InstantMs {
  const { kind, anchorZone } = context;
  const instant =
    kind === 'due'
      ? dueMoment(anchor, anchorZone, context.endOfDay, context.dueCalendar, context.closeZone)
      : startMoment(anchor, anchorZone);
  if (trace && anchor.minute === null) {
    const code = kind === 'due' ? 'due-moment' : 'start-moment';
    trace.push({
      code,
      params: {
        date: formatDay(anchor.day),
        zone: anchorZone.nameAt(instant),
        instant: formatZoned(instant, anchorZone)
      }
    });
  }
  return instant;
}

/** The date of an anchor read in a zone; a date is the date as written. */
function dateInZone(anchor: Moment, zone: Zone, trace: Trace): Day {
  if (anchor.minute === null || anchor.zone === null || anchor.zone === zone) return anchor.day;
  const instant = instantOnWall(anchor.day, anchor.minute, anchor.zone);
  const day = zone.dayOf(instant);
  if (trace && day !== anchor.day) {
    trace.push({
      code: 'anchor-read-elsewhere',
      params: {
        date: formatDay(day),
        zone: zone.nameAt(instant),
        ownDate: formatDay(anchor.day),
        ownZone: anchor.zone.nameAt(instant)
      }
    });
  }
  return day;
}

function closed(lead: LeadTiming, originDay: Day, { calendar }: RingContext, trace: Trace): Day {
  const day = closedDay(originDay, lead.closedDay, lead.n, calendar.days);
  if (!trace) return day;
  const params = {
    from: formatDay(originDay),
    rule: lead.closedDay,
    name: calendar.holidayName(originDay) ?? ''
  };
  if (Number.isNaN(day)) trace.push({ code: 'closed-day-skipped', params });
  else if (day !== originDay)
    trace.push({ code: 'closed-day-moved', params: { ...params, to: formatDay(day) } });
  else if (!calendar.days.isWorking(day)) trace.push({ code: 'closed-day-kept', params });
  return day;
}
