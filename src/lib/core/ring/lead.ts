import { CodedError } from '../errors.ts';
import type { MinuteOfDay } from '../time/time-of-day.ts';

/** Units of an offset. `day`, `week`, `month` and `workday` count on dates, the others on instants. */
export const UNITS = ['minute', 'hour', 'day', 'week', 'month', 'workday', 'workminute', 'workhour'] as const;
export type Unit = (typeof UNITS)[number];

/** What happens when the computed date is a closed day. */
export const CLOSED_DAY_RULES = [
  'as-is',
  'earlier',
  'later',
  'onward',
  'nearest',
  'later-in-month',
  'earlier-in-month',
  'skip'
] as const;
export type ClosedDayRule = (typeof CLOSED_DAY_RULES)[number];

/** Which moment a date stands for when minutes are counted from it: the end of a due date, the beginning of a start date. */
export type AnchorKind = 'due' | 'start';

/** The timing of one lead, without whom it tells. */
export interface LeadTiming {
  /** Negative is before. */
  n: number;
  unit: Unit;
  closedDay: ClosedDayRule;
  /** Time of day of the ring; null keeps the anchor's own, or the notice time on a date. */
  minute: MinuteOfDay | null;
}

export function isElapsed(unit: Unit): unit is 'minute' | 'hour' {
  return unit === 'minute' || unit === 'hour';
}

export function isWorkingTime(unit: Unit): unit is 'workminute' | 'workhour' {
  return unit === 'workminute' || unit === 'workhour';
}

/** Units that count on dates. */
export function isDayLevel(unit: Unit): boolean {
  return !isElapsed(unit) && !isWorkingTime(unit);
}

/** Closed-day rule of a lead that does not name one: earlier before and on the day, later after it, none for elapsed units. */
export function defaultClosedDay(n: number, unit: Unit): ClosedDayRule {
  if (!isDayLevel(unit)) return 'as-is';
  return n > 0 ? 'later' : 'earlier';
}

/** Most units of an offset: more would leave the dates handled, 1900 to 2200, from anywhere inside them. */
const MOST: Record<Unit, number> = {
  minute: 160_000_000,
  hour: 2_700_000,
  day: 110_000,
  week: 15_800,
  month: 3_612,
  workday: 110_000,
  workminute: 160_000_000,
  workhour: 2_700_000
};

/**
 * Checks that the parts of a lead go together.
 * @throws CodedError `time-with-elapsed-unit` or `offset-too-large`
 */
export function checkLead(lead: LeadTiming): void {
  if (lead.minute !== null && !isDayLevel(lead.unit)) {
    throw new CodedError('time-with-elapsed-unit', { unit: lead.unit }, 'time');
  }
  if (!Number.isSafeInteger(lead.n) || Math.abs(lead.n) > MOST[lead.unit]) {
    throw new CodedError(
      'offset-too-large',
      { n: lead.n, unit: lead.unit, most: MOST[lead.unit] },
      'offset.n'
    );
  }
}
