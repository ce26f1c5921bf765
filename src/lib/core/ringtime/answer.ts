import { weekOn } from '../calendar/spec.ts';
import { CodedError, withField } from '../errors.ts';
import { renewal } from '../recurrence/renewal.ts';
import { parseRecurrenceRule } from '../recurrence/rrule.ts';
import { closedDay } from '../ring/closed-day.ts';
import { daysLeft } from '../ring/days-left.ts';
import { dueMoment } from '../ring/moments.ts';
import { overdueAge } from '../ring/overdue.ts';
import { weekSpanOf } from '../ring/week-spans.ts';
import { checkDay, formatDay, parseDay, type Day } from '../time/day.ts';
import { dayOfMoment, formatInstant, formatZoned, parseInstant } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { answerPlace } from './answer-place.ts';
import { answerRing } from './answer-ring.ts';
import type { Ask, RingAnswer, RingCase } from './case.ts';
import type { PlaceCase } from './place-case.ts';
import { readAt, readCase, type ReadCase } from './read.ts';

const ANSWERS: Record<Ask, (read: ReadCase, ringCase: RingCase) => RingAnswer> = {
  ring: answerRing,
  dueMoment: (read) => placed(dueAt(read), read.context.zone),
  overdue: answerOverdue,
  daysLeft: answerDaysLeft,
  week: answerWeek,
  renew: answerRenew
};

/**
 * Answers one case: when does this ring, when is it due, how late is it, how many days are left, in which span of the week does
 * it lie, when does it come back, where does it stand on a Desk. Everything comes in with the case; nothing is read from a clock.
 * @throws CodedError with the field in which the fault stands
 */
export function answerCase(ringCase: RingCase | PlaceCase): RingAnswer {
  const answer =
    ringCase.ask === 'place'
      ? answerPlace(ringCase)
      : ANSWERS[ringCase.ask ?? 'ring'](readCase(ringCase), ringCase);
  return ringCase.id === undefined ? answer : { id: ringCase.id, ...answer };
}

function answerDaysLeft(read: ReadCase, ringCase: RingCase): RingAnswer {
  const left = daysLeft(read.anchor, dueAt(read), readAt(ringCase), read.context.zone);
  return left.overdue ? { overdue: true } : { days: left.days };
}

function answerOverdue(read: ReadCase, ringCase: RingCase): RingAnswer {
  const { anchor, context } = read;
  const pauses = (ringCase.pauses ?? []).map(({ from, to }, i) =>
    withField(`pauses.${i}`, () => {
      const start = withField('from', () => parseInstant(from));
      const end = withField('to', () => parseInstant(to));
      if (end < start) throw new CodedError('pause-order', { from, to }, 'to');
      return [start, end] as const;
    })
  );
  const age = overdueAge(anchor, dueAt(read), context.anchorZone, context.calendar, readAt(ringCase), pauses);
  if (!age) return { overdue: false, days: 0, workdays: 0, workminutes: 0 };
  return {
    overdue: true,
    days: age.days,
    workdays: age.workdays,
    workminutes: age.workMinutes,
    band: age.band
  };
}

function answerWeek({ anchor, context }: ReadCase, ringCase: RingCase): RingAnswer {
  const { zone, calendar } = context;
  const today = zone.dayOf(readAt(ringCase));
  return { span: weekSpanOf(dayOfMoment(anchor, zone, zone), today, weekOn(calendar.calendar, today)) };
}

function answerRenew({ anchor, lead, context }: ReadCase, ringCase: RingCase): RingAnswer {
  const { rhythm, from = 'due' } = ringCase;
  if (rhythm === undefined)
    throw new CodedError('field-needed', { field: 'rhythm', what: 'renew' }, 'rhythm');
  const read =
    typeof rhythm === 'string' ? { rule: withField('rhythm', () => parseRecurrenceRule(rhythm)) } : rhythm;
  const finished =
    from === 'calendar' && ringCase.at === undefined ? null : finishDay(ringCase, context.zone);
  const next = renewal(anchor.day, finished, read, from, context.calendar.days);
  if (!next) return { date: null, skipped: [] };
  const day = closedDay(next.day, lead.closedDay, 1, context.calendar.days);
  return {
    date: Number.isNaN(day) ? null : formatDay(checkDay(day)),
    skipped: next.skipped.map(formatDay)
  };
}

/** The local date of `at`; a plain date is itself. */
function finishDay(ringCase: RingCase, zone: Zone): Day {
  const { at } = ringCase;
  if (at !== undefined && /^\d{4}-\d{2}-\d{2}$/.test(at)) return withField('at', () => parseDay(at));
  return zone.dayOf(readAt(ringCase));
}

function dueAt({ anchor, context }: ReadCase): InstantMs {
  return dueMoment(anchor, context.anchorZone, context.endOfDay, context.dueCalendar, context.closeZone);
}

function placed(instant: InstantMs, zone: Zone): RingAnswer {
  return { instant: formatInstant(instant), local: formatZoned(instant, zone) };
}
