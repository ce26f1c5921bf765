import { CompiledCalendar } from '../calendar/compiled.ts';
import { ALWAYS_OPEN, parseCalendar, parseIntervals, type CalendarSpec } from '../calendar/spec.ts';
import { CodedError, withField } from '../errors.ts';
import { formatDay } from '../time/day.ts';
import { formatInstant, formatZoned, parseInstant, parseMoment, type Moment } from '../time/instant.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';
import { daysLeft } from './days-left.ts';
import { LONGEST_HOLD_DAYS, ANY_TIME, holdUntilReach, type Reach } from './hold.ts';
import { isLateBell } from './late.ts';
import { checkLead, type AnchorKind, type ClosedDayRule, type LeadTiming, type Unit } from './lead.ts';
import { dueMoment, useByOfAnchor, type EndOfDay } from './moments.ts';
import { ringInstant, type RingContext } from './ring-instant.ts';
import { whyText } from './why-text.ts';
import type { WhyStep } from './why.ts';

/** One case of the `ringtime` command, of the right shape but not yet read. */
export interface RingCase {
  id?: string | number;
  anchor: string;
  anchorZone?: string;
  as?: AnchorKind;
  offset?: { n: number; unit: Unit };
  closedDay?: ClosedDayRule;
  time?: string;
  zone?: string;
  calendar?: CalendarSpec & { zone?: string };
  endOfDay?: EndOfDay;
  hold?: { zone?: string; calendar?: CalendarSpec; quiet?: string[] };
  ifLate?: 'keep' | 'ring-anyway' | 'forward' | 'skip';
  ask?: 'ring' | 'dueMoment' | 'daysLeft' | 'overdue' | 'week' | 'renew';
  at?: string;
  leave?: unknown;
  away?: unknown;
  standIn?: unknown;
  manager?: unknown;
  repeat?: unknown;
  pauses?: unknown;
  rhythm?: unknown;
  from?: unknown;
}

export type RingAnswer = Record<string, unknown>;

/** Fields of the format whose computation is not there yet, with what they are called in the refusal. */
const NOT_YET: readonly (readonly [keyof RingCase, string])[] = [
  ['leave', 'leave'],
  ['away', 'stand-ins and leave'],
  ['standIn', 'stand-ins and leave'],
  ['manager', 'stand-ins and leave'],
  ['repeat', 'repeats'],
  ['pauses', 'pauses'],
  ['rhythm', 'renewals'],
  ['from', 'renewals']
];

interface ReadCase {
  anchor: Moment;
  lead: LeadTiming;
  context: RingContext;
  reach: Reach;
  reachZone: Zone;
}

/**
 * Answers one case: when does this ring, or when is it due, or how many days are left. Everything comes in with the
 * case; nothing is read from a clock.
 * @throws CodedError with the field in which the fault stands
 */
export function answerCase(ringCase: RingCase): RingAnswer {
  for (const [field, what] of NOT_YET) {
    if (ringCase[field] !== undefined) throw new CodedError('not-supported-yet', { what }, field);
  }
  const ask = ringCase.ask ?? 'ring';
  const read = readCase(ringCase);
  const answer =
    ask === 'ring'
      ? answerRing(read, ringCase)
      : ask === 'dueMoment'
        ? answerDueMoment(read)
        : ask === 'daysLeft'
          ? answerDaysLeft(read, ringCase)
          : null;
  if (!answer) throw new CodedError('not-supported-yet', { what: `“${ask}”` }, 'ask');
  return ringCase.id === undefined ? answer : { id: ringCase.id, ...answer };
}

function readCase(ringCase: RingCase): ReadCase {
  const zone = withField('zone', () => zoneNamed(ringCase.zone ?? 'UTC'));
  const anchorZone =
    ringCase.anchorZone === undefined ? zone : withField('anchorZone', () => zoneNamed(ringCase.anchorZone!));
  const anchor = withField('anchor', () => parseMoment(ringCase.anchor, anchorZone));
  const n = ringCase.offset?.n ?? 0;
  const unit = ringCase.offset?.unit ?? 'day';
  const minute = ringCase.time === undefined ? null : withField('time', () => parseTimeOfDay(ringCase.time!));
  const lead: LeadTiming = { n, unit, closedDay: ringCase.closedDay ?? 'as-is', minute };
  checkLead(lead);
  const calendar = withField('calendar', () => {
    const calendarZone = ringCase.calendar?.zone
      ? withField('zone', () => zoneNamed(ringCase.calendar!.zone!))
      : anchorZone;
    return compiled(ringCase.calendar, calendarZone);
  });
  const context: RingContext = {
    kind: ringCase.as ?? 'due',
    zone,
    anchorZone,
    calendar,
    dueCalendar: calendar,
    endOfDay: ringCase.endOfDay ?? 'midnight',
    noticeMinute: 0
  };
  return { anchor, lead, context, ...withField('hold', () => readReach(ringCase.hold, zone)) };
}

function readReach(hold: RingCase['hold'], zone: Zone): { reach: Reach; reachZone: Zone } {
  if (!hold) return { reach: ANY_TIME, reachZone: zone };
  const reachZone = hold.zone ? withField('zone', () => zoneNamed(hold.zone!)) : zone;
  if (hold.quiet) {
    return {
      reach: { kind: 'quiet', zone: reachZone, quiet: withField('quiet', () => parseIntervals(hold.quiet!)) },
      reachZone
    };
  }
  const spec = hold.calendar ?? {};
  const calendar = withField('calendar', () => parseCalendar({ week: {}, ...spec }));
  return { reach: { kind: 'working', spans: new CompiledCalendar(calendar, reachZone).spans }, reachZone };
}

/** Cases that follow each other mostly name the same calendar: the last few compiled ones are kept. */
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

function answerRing({ anchor, lead, context, reach, reachZone }: ReadCase, ringCase: RingCase): RingAnswer {
  const why: WhyStep[] = [];
  const { instant } = ringInstant(lead, anchor, context, { instant: NaN, originDay: 0 }, why);
  if (Number.isNaN(instant)) return { instant: null, why: withText(why) };

  const leaving = holdUntilReach(instant, reach);
  if (Number.isNaN(leaving)) {
    why.push({ code: 'never-reachable', params: { days: LONGEST_HOLD_DAYS } });
    return { instant: null, why: withText(why) };
  }
  if (leaving !== instant) {
    const params = { from: formatZoned(instant, reachZone), to: formatZoned(leaving, reachZone) };
    why.push({ code: reach.kind === 'quiet' ? 'held-quiet' : 'held', params });
  }
  const useBy = useByOfAnchor(context.kind, anchor, context.anchorZone, context.endOfDay, context.calendar);
  const late = isLateBell(lead, anchor, leaving, useBy);
  if (late && ringCase.ifLate !== undefined && ringCase.ifLate !== 'keep') {
    throw new CodedError(
      'not-supported-yet',
      { what: `“${ringCase.ifLate}” for a ring that would be late` },
      'ifLate'
    );
  }
  if (late) why.push({ code: 'late-bell', params: { useBy: formatZoned(useBy, context.anchorZone) } });
  return {
    ...placed(leaving, context.zone),
    date: formatDay(context.zone.dayOf(leaving)),
    ...(leaving === instant ? {} : { heldFrom: formatInstant(instant) }),
    ...(late ? { lateBell: true } : {}),
    why: withText(why)
  };
}

function answerDueMoment({ anchor, context }: ReadCase): RingAnswer {
  return placed(dueAt(anchor, context), context.zone);
}

function answerDaysLeft({ anchor, context }: ReadCase, { at }: RingCase): RingAnswer {
  if (at === undefined)
    throw new CodedError('bad-field', { detail: '“at” is needed to count the days left' }, 'at');
  const left = daysLeft(
    anchor,
    dueAt(anchor, context),
    withField('at', () => parseInstant(at)),
    context.zone
  );
  return left.overdue ? { overdue: true } : { days: left.days };
}

function dueAt(anchor: Moment, { anchorZone, endOfDay, calendar }: RingContext): InstantMs {
  return dueMoment(anchor, anchorZone, endOfDay, calendar);
}

function placed(instant: InstantMs, zone: Zone): RingAnswer {
  return { instant: formatInstant(instant), local: formatZoned(instant, zone) };
}

function withText(why: readonly WhyStep[]): (WhyStep & { text: string })[] {
  return why.map((step) => ({ ...step, text: whyText(step) }));
}
