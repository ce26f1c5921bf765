import type { WorkingDays } from '../calendar/working-days.ts';
import { partsOfDay, type Day } from '../time/day.ts';
import type { ClosedDayRule } from './lead.ts';

/**
 * Step 3: where a computed date goes when it is a closed day. NaN when the rule skips it. A working day stays.
 * `later-in-month` and `earlier-in-month` are the market's modified following and modified preceding (ISDA
 * Definitions, business day conventions).
 * @param n the offset's count: `onward` goes on in its direction, later when it is 0
 * @throws CodedError `no-working-time`
 * @example closedDay(saturday, 'later', -1, monToFri) // the Monday after
 */
export function closedDay(day: Day, rule: ClosedDayRule, n: number, days: WorkingDays): Day {
  if (rule === 'as-is' || days.isWorking(day)) return day;
  switch (rule) {
    case 'earlier':
      return days.offset(day, -1);
    case 'later':
      return days.offset(day, 1);
    case 'onward':
      return days.offset(day, n < 0 ? -1 : 1);
    case 'nearest':
      return nearest(day, days);
    case 'later-in-month':
      return inMonth(day, 1, days);
    case 'earlier-in-month':
      return inMonth(day, -1, days);
    case 'skip':
      return NaN;
  }
}

/** A tie goes later. */
function nearest(day: Day, days: WorkingDays): Day {
  const later = days.offset(day, 1);
  const earlier = days.offset(day, -1);
  return day - earlier < later - day ? earlier : later;
}

/** The other direction when this one leaves the month; plain later when the whole month is closed. */
function inMonth(day: Day, direction: 1 | -1, days: WorkingDays): Day {
  const wished = days.offset(day, direction);
  if (sameMonth(wished, day)) return wished;
  const other = days.offset(day, direction === 1 ? -1 : 1);
  if (sameMonth(other, day)) return other;
  return direction === 1 ? wished : other;
}

function sameMonth(a: Day, b: Day): boolean {
  const [left, right] = [partsOfDay(a), partsOfDay(b)];
  return left.month === right.month && left.year === right.year;
}
