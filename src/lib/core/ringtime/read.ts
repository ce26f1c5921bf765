import { CompiledCalendar } from '../calendar/compiled.ts';
import { NO_LEAVE, parseLeave } from '../calendar/leave.ts';
import { ALWAYS_OPEN, parseCalendar, parseIntervals, type CalendarSpec } from '../calendar/spec.ts';
import { CodedError, withField } from '../errors.ts';
import { ANY_TIME, type Reach } from '../ring/hold.ts';
import { checkLead, type LeadTiming } from '../ring/lead.ts';
import type { AwayChoice, Reader } from '../ring/reader.ts';
import type { RingContext } from '../ring/ring-context.ts';
import { parseInstant, parseMoment, type Moment } from '../time/instant.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';
import type { ReaderSpec, RingCase } from './case.ts';

/** A case with its dates, zones and calendars read. */
export interface ReadCase {
  anchor: Moment;
  lead: LeadTiming;
  context: RingContext;
  recipient: Reader;
  away: AwayChoice;
}

/**
 * Reads a case. Absent fields take the defaults of the command, which are not those of a rule.
 * @throws CodedError with the field in which the fault stands
 */
export function readCase(ringCase: RingCase): ReadCase {
  const zone = withField('zone', () => zoneNamed(ringCase.zone ?? 'UTC'));
  const anchorZone =
    ringCase.anchorZone === undefined ? zone : withField('anchorZone', () => zoneNamed(ringCase.anchorZone!));
  const anchor = withField('anchor', () => parseMoment(ringCase.anchor, anchorZone));
  const minute = ringCase.time === undefined ? null : withField('time', () => parseTimeOfDay(ringCase.time!));
  const { n, unit } = ringCase.offset ?? { n: 0, unit: 'day' };
  const lead: LeadTiming = { n, unit, closedDay: ringCase.closedDay ?? 'as-is', minute };
  checkLead(lead);
  const own = ringCase.calendar?.zone;
  const calendarZone = own ? withField('calendar.zone', () => zoneNamed(own)) : anchorZone;
  const calendar = withField('calendar', () => compiled(ringCase.calendar, calendarZone));
  const context: RingContext = {
    kind: ringCase.as ?? 'due',
    zone,
    anchorZone,
    calendar,
    dueCalendar: calendar,
    closeZone: calendarZone,
    endOfDay: ringCase.endOfDay ?? 'midnight',
    noticeMinute: 0
  };
  const away = ringCase.away ?? (ringCase.standIn ? 'stand-in' : 'wait');
  return { anchor, lead, context, recipient: readRecipient(ringCase, zone), away };
}

/**
 * Reads `at`.
 * @throws CodedError `field-needed` or what the instant says
 */
export function readAt({ at, ask }: RingCase): InstantMs {
  if (at === undefined) throw new CodedError('field-needed', { field: 'at', what: ask ?? 'ring' }, 'at');
  return withField('at', () => parseInstant(at));
}

function readRecipient({ hold, leave, standIn, manager }: RingCase, zone: Zone): Reader {
  const { reach, reachZone } = withField('hold', () => readReach(hold, zone));
  return {
    zone: reachZone,
    reach,
    // A case gives no working hours besides its reach: where there is none, a wait ends with the leave.
    base: null,
    leave: leave ? withField('leave', () => parseLeave(leave, reachZone)) : NO_LEAVE,
    standInAt: always(standIn ? withField('standIn', () => readReader(standIn, reachZone)) : null),
    manager: manager ? withField('manager', () => readReader(manager, reachZone)) : null
  };
}

function readReader({ zone: name, calendar, leave, standIn }: ReaderSpec, zone: Zone): Reader {
  const own = name === undefined ? zone : withField('zone', () => zoneNamed(name));
  return {
    zone: own,
    reach: calendar
      ? { kind: 'working', spans: withField('calendar', () => compiled(calendar, own)).spans }
      : ANY_TIME,
    base: null,
    leave: leave ? withField('leave', () => parseLeave(leave, own)) : NO_LEAVE,
    standInAt: always(standIn ? withField('standIn', () => readReader(standIn, own)) : null),
    manager: null
  };
}

/** A case names one stand-in for all of a reader's leave. */
function always(standIn: Reader | null): () => Reader | null {
  return () => standIn;
}

function readReach(hold: RingCase['hold'], zone: Zone): { reach: Reach; reachZone: Zone } {
  if (!hold) return { reach: ANY_TIME, reachZone: zone };
  const reachZone = hold.zone ? withField('zone', () => zoneNamed(hold.zone!)) : zone;
  if (hold.quiet) {
    const quiet = withField('quiet', () => parseIntervals(hold.quiet!));
    return { reach: { kind: 'quiet', zone: reachZone, quiet }, reachZone };
  }
  if (!hold.calendar) return { reach: ANY_TIME, reachZone };
  const { spans } = withField('calendar', () => compiled(hold.calendar, reachZone));
  return { reach: { kind: 'working', spans }, reachZone };
}

/** Cases that follow each other mostly name the same calendars: the last few compiled ones are kept. */
const kept = new Map<string, CompiledCalendar>();
const KEPT_CALENDARS = 64;

function compiled(spec: CalendarSpec | undefined, zone: Zone): CompiledCalendar {
  const key = `${zone.name} ${spec ? JSON.stringify(spec) : ''}`;
  const known = kept.get(key);
  if (known) return known;
  const calendar = new CompiledCalendar(spec ? parseCalendar(spec) : ALWAYS_OPEN, zone);
  if (kept.size >= KEPT_CALENDARS) kept.delete(kept.keys().next().value!);
  kept.set(key, calendar);
  return calendar;
}
