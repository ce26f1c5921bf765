import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import {
  MS_PER_DAY,
  MS_PER_MINUTE,
  formatDay,
  partsOfDay,
  weekdayOf,
  type Day
} from '../../core/time/day.ts';
import { WEEKDAY_NAMES, clockTime } from '../../core/time/format.ts';
import type { InstantMs, Zone } from '../../core/time/zone.ts';
import type { DayMinutes, DeskDay } from '../../view/desk.ts';

const MINUTES_PER_DAY = 1440;
/** The axis of days on which nobody works. */
const OFFICE: [from: number, until: number] = [8, 18];

/** A day of a person as it will be lived: their working time less leave, and what closes or shortens it. */
export function dayView(person: PersonFacts, day: Day): DeskDay {
  const { zone, calendar, leave } = person;
  const [from, until] = [zone.startOfDay(day), zone.endOfDay(day)];
  const whole = calendar.spans.between(from, until);
  const lit = leave.cutOutOf(whole);
  const left = lit.map(([open, close]) => minutesOf(open, close, day, zone));
  return {
    date: formatDay(day),
    words: `${WEEKDAY_NAMES[weekdayOf(day)]!.slice(0, 3)} ${partsOfDay(day).dayOfMonth}`,
    lit: left,
    away: awayOf(whole, lit).map(([open, close]) => minutesOf(open, close, day, zone)),
    notes: notesOf(person, day, whole, lit),
    closed: left.length === 0
  };
}

/** Minutes of a date on the wall; what ends on the next date ends with this one. */
function minutesOf(open: InstantMs, close: InstantMs, day: Day, zone: Zone): DayMinutes {
  const minute = (at: InstantMs) => Math.round((zone.localOf(at) - day * MS_PER_DAY) / MS_PER_MINUTE);
  return [Math.max(0, minute(open)), close >= zone.endOfDay(day) ? MINUTES_PER_DAY : minute(close)];
}

/** What leave takes of the working time of a day. */
function awayOf(
  whole: readonly (readonly [InstantMs, InstantMs])[],
  lit: readonly (readonly [InstantMs, InstantMs])[]
): [InstantMs, InstantMs][] {
  const away: [InstantMs, InstantMs][] = [];
  for (const [open, close] of whole) {
    let at = open;
    for (const [from, until] of lit) {
      if (until <= at || from >= close) continue;
      if (from > at) away.push([at, from]);
      at = until;
    }
    if (at < close) away.push([at, close]);
  }
  return away;
}

function notesOf(
  { calendar, zone, leave }: PersonFacts,
  day: Day,
  whole: readonly (readonly [InstantMs, InstantMs])[],
  lit: readonly (readonly [InstantMs, InstantMs])[]
): string[] {
  const notes: string[] = [];
  const holiday = calendar.holidayName(day);
  if (holiday) notes.push(holiday);
  const away = awayOf(whole, lit);
  if (away.length > 0) {
    if (lit.length === 0) notes.push('leave');
    else
      notes.push(
        ...away.map(([from, until]) =>
          until >= whole[whole.length - 1]![1]
            ? `leave from ${clockTime(from, zone)}`
            : `leave until ${clockTime(until, zone)}`
        )
      );
  } else if (whole.length === 0 && leave.covers(zone.startOfDay(day))) notes.push('leave');
  return notes;
}

/** When the work of a day ends for them; null on a day without any. */
export function closeOf({ zone, calendar, leave }: PersonFacts, day: Day): InstantMs | null {
  const spans = leave.cutOutOf(calendar.spans.between(zone.startOfDay(day), zone.endOfDay(day)));
  return spans[spans.length - 1]?.[1] ?? null;
}

/** The next day on which they work, leave counted as closed; null where none is known in a year. */
export function nextDayAtWork(person: PersonFacts, after: Day): Day | null {
  for (let day = after + 1; day <= after + 366; day++)
    if (person.calendar.days.isWorking(day) && closeOf(person, day) !== null) return day;
  return null;
}

/** Whole hours that hold the working time of some days, with an hour around it. */
export function hoursOf(days: readonly DeskDay[]): [from: number, until: number] {
  const spans = days.flatMap(({ lit, away }) => [...lit, ...away]);
  if (spans.length === 0) return OFFICE;
  const from = Math.floor(Math.min(...spans.map(([open]) => open)) / 60) - 1;
  const until = Math.ceil(Math.max(...spans.map(([, close]) => close)) / 60) + 1;
  return [Math.max(0, from), Math.min(24, until)];
}
