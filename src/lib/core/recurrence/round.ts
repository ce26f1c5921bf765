import type { WorkingDays } from '../calendar/working-days.ts';
import { closedDay } from '../ring/closed-day.ts';
import type { ClosedDayRule } from '../ring/lead.ts';
import type { Day } from '../time/day.ts';
import type { Moment } from '../time/instant.ts';
import { renewal, type RenewFrom, type Rhythm } from './renewal.ts';

/** How a recurring task comes back. */
export interface RoundRule {
  rhythm: Rhythm;
  from: RenewFrom;
  /** Applied to the new due date; the rhythm goes on from the date before it. */
  closedDay: ClosedDayRule;
}

/** The dates of one round. */
export interface RoundDates {
  due: Moment | null;
  start: Moment | null;
  remindOn: Moment | null;
  /** Where the rhythm began; null takes the due date. */
  originDay: Day | null;
  /** The due date on the rhythm, before a closed-day rule or a person moved it; null takes the due date's own. */
  rhythmDay: Day | null;
}

export interface NextRound {
  due: Moment;
  start: Moment | null;
  remindOn: Moment | null;
  originDay: Day;
  rhythmDay: Day;
  /** Days by which every date of the task, and of its subtasks, moves. */
  shiftDays: number;
  /** Dates of the rhythm that were passed over. */
  skipped: Day[];
}

/**
 * The next round of a recurring task: its due date by the rhythm, start and reminder date at their distance from it. A due date that a
 * person moved does not move the rhythm, but no date at or before it is taken.
 * @param finished the local date on which the work was finished; null when it was not (a round by the calendar)
 * @returns null when the rhythm has ended, the closed-day rule skips the date, or there is no date to count from
 * @throws CodedError as `renewal` does
 * @example every month from the 31st of January, finished that day: due on the 28th of February, then on the 31st of March
 */
export function nextRound(
  dates: RoundDates,
  finished: Day | null,
  { rhythm, from, closedDay: rule }: RoundRule,
  days: WorkingDays
): NextRound | null {
  const { due } = dates;
  const origin = dates.originDay ?? due?.day ?? (from === 'finish' ? finished : null);
  if (origin === null) return null;
  // The rhythm is counted from where it began, so that the 31st is remembered; what lies behind is passed over.
  const present = dates.rhythmDay ?? due?.day ?? origin;
  const after = Math.max(present, due?.day ?? present, finished ?? present);
  const next = renewal(
    origin,
    from === 'finish' ? finished : after,
    rhythm,
    from === 'calendar' ? 'due' : from,
    days
  );
  if (!next) return null;
  const day = closedDay(next.day, rule, 0, days);
  if (Number.isNaN(day)) return null;
  const shiftDays = day - (due?.day ?? day);
  const moved = (moment: Moment | null) => moment && { ...moment, day: moment.day + shiftDays };
  return {
    due: due ? { ...due, day } : { day, minute: null, zone: null },
    start: moved(dates.start),
    remindOn: moved(dates.remindOn),
    originDay: from === 'finish' ? next.day : origin,
    rhythmDay: next.day,
    shiftDays,
    skipped: next.skipped.filter((passed) => passed > present)
  };
}
