import { daysWords, longDay, shortDay } from '../time/format.ts';
import type { Day } from '../time/day.ts';
import type { PlaceReason } from './placement.ts';

/** Why a task stands where it stands, as one sentence. @param today of the person */
export function placeWords(reason: PlaceReason, today: Day): string {
  switch (reason.code) {
    case 'closed':
      return 'It is closed.';
    case 'finished':
      return 'It is finished and not closed yet.';
    case 'new':
      return 'It was given to this person, who has not placed it yet.';
    case 'undated':
      return 'It has no date.';
    case 'planned-today':
      return 'It was planned for today and stays until it is moved or finished.';
    case 'parked':
      return reason.on === null ? 'It is parked.' : `It is parked until ${longDay(reason.on)}.`;
    case 'review':
      return `It was parked until ${longDay(reason.on)}.`;
    case 'date':
    case 'date-reached':
      return dateWords(reason.of, reason.on, today);
    case 'planned':
    case 'planned-last':
      return `It is planned for ${planDays(reason, today)}.`;
    case 'plan-over':
      return `It was planned for ${planDays(reason, today)}.`;
  }
}

function dateWords(of: 'start' | 'due', on: Day, today: Day): string {
  if (on === today) return of === 'due' ? 'It is due today.' : 'It starts today.';
  if (of === 'due') return `It ${on < today ? 'was' : 'is'} due ${longDay(on)}.`;
  return `It ${on < today ? 'started' : 'starts'} ${longDay(on)}.`;
}

/** The days of a plan in short: “Fri 6 Mar”, “9–13 March”, “Mon 16 Mar or later”. */
export function planShort({ first, last }: { first: Day; last: Day | null }, today: Day): string {
  if (last === null) return `${shortDay(first, today)} or later`;
  return first === last ? shortDay(first, today) : daysWords(first, last, today);
}

function planDays({ first, last }: { first: Day; last: Day | null }, today: Day): string {
  return last === null ? `${daysWords(first, first, today)} or later` : daysWords(first, last, today);
}
