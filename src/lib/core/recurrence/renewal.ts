import type { WorkingDays } from '../calendar/working-days.ts';
import { CodedError } from '../errors.ts';
import { offsetDay } from '../ring/offset.ts';
import { isDayLevel, type Unit } from '../ring/lead.ts';
import { FIRST_DAY, LAST_DAY, checkDay, type Day } from '../time/day.ts';
import { zoneNamed } from '../time/zone.ts';
import { occurrences } from './occurrences.ts';
import type { RecurrenceRule } from './rrule.ts';

/** How a task comes back: every so many days, weeks, months or working days; or by a recurrence rule over dates. */
export type Rhythm = { n: number; unit: Unit } | { rule: RecurrenceRule };

/** What the next due date is counted from. */
export const RENEW_FROM = ['due', 'finish', 'calendar'] as const;
export type RenewFrom = (typeof RENEW_FROM)[number];

export interface Renewal {
  /** On the rhythm, before any closed-day rule. */
  day: Day;
  /** Dates of the rhythm that were passed over, because the work was finished after them. */
  skipped: Day[];
}

/** More dates than this are not passed over one by one. */
const MOST_SKIPPED = 10_000;

/**
 * The next due date of a recurring task; null when its rhythm has ended. *From due*: the first date of the rhythm strictly after
 * both the due date and the finish date. *From finish*: the finish date and one step on. *By the calendar*: the first date strictly
 * after the due date, whether or not the work is finished.
 * @param due the date on the rhythm, unrolled
 * @param finished the local finish date; not needed by the calendar
 * @throws CodedError `rhythm-unit` for a unit that is not of dates, `rhythm-step` for a step that does not go on
 */
export function renewal(
  due: Day,
  finished: Day | null,
  rhythm: Rhythm,
  from: RenewFrom,
  days: WorkingDays
): Renewal | null {
  if (from === 'finish') {
    const day = first(datesAfter(finished ?? due, rhythm, days));
    return day === undefined ? null : { day, skipped: [] };
  }
  const after = from === 'calendar' ? due : Math.max(due, finished ?? due);
  const skipped: Day[] = [];
  for (const day of datesAfter(due, rhythm, days)) {
    if (day > after) return { day, skipped };
    skipped.push(day);
    if (skipped.length > MOST_SKIPPED)
      throw new CodedError('rhythm-behind', { most: MOST_SKIPPED }, 'rhythm');
  }
  return null;
}

/** Dates of a rhythm strictly after its origin. The k-th is origin + k steps, so that the 31st is remembered through February. */
function* datesAfter(origin: Day, rhythm: Rhythm, days: WorkingDays): Generator<Day> {
  if ('rule' in rhythm) {
    const utc = zoneNamed('UTC');
    for (const instant of occurrences(rhythm.rule, { day: origin, timeMs: 0 }, utc)) {
      const day = utc.dayOf(instant);
      if (day > origin) yield day;
    }
    return;
  }
  const { n, unit } = rhythm;
  if (!isDayLevel(unit)) throw new CodedError('rhythm-unit', { unit }, 'rhythm.unit');
  if (!(n >= 1)) throw new CodedError('rhythm-step', { n }, 'rhythm.n');
  for (let k = 1; ; k++) {
    const day = offsetDay(origin, k * n, unit, days);
    if (!(day >= FIRST_DAY && day <= LAST_DAY)) return;
    yield checkDay(day);
  }
}

function first(dates: Generator<Day>): Day | undefined {
  return dates.next().value as Day | undefined;
}
