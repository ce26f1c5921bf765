import { CodedError } from '../errors.ts';
import { many } from '../many.ts';
import { FIRST_DAY, LAST_DAY, MS_PER_DAY, type Day } from '../time/day.ts';
import { longDay } from '../time/format.ts';
import { readTypedDate } from './date.ts';
import type { DayList } from './day-list.ts';

/** What a date field goes by. */
export interface FieldDays {
  today: Day;
  /** Null until it is there: words that count working days wait for it. */
  list: DayList | null;
  weekStart: number;
  /** The name of a closed day; null where it has none. */
  nameOf: (day: Day) => string | null;
}

/** What stands in a date field, as it is understood. */
export type FieldReading =
  | { kind: 'empty' }
  | { kind: 'day'; day: Day; words: string }
  /** It can mean several days, which must be asked. */
  | { kind: 'several'; days: { day: Day; words: string }[] }
  /** Its working days are not known yet. */
  | { kind: 'waiting' }
  | { kind: 'fault'; why: string };

class DaysNotThere extends Error {}
const NOT_THERE = {
  isWorking(): never {
    throw new DaysNotThere();
  },
  offset(): never {
    throw new DaysNotThere();
  }
};

/**
 * Reads what is typed in a date field: “fri”, “5 mar”, “in 5 working days”, “2026-03-05”. Nothing is guessed: what says no date is refused
 * with its reason, and what says two is asked.
 */
export function readDateField(text: string, field: FieldDays): FieldReading {
  const typed = text.trim();
  if (typed === '') return { kind: 'empty' };
  try {
    const typist = {
      wall: field.today * MS_PER_DAY,
      days: field.list ?? NOT_THERE,
      weekStart: field.weekStart
    };
    const reading = readTypedDate(typed, typist);
    if (!reading) return fault('date-not-read', { value: typed.slice(0, 40) });
    if (reading.fault !== undefined) return { kind: 'fault', why: reading.fault };
    if (reading.choices.some(({ time }) => time !== null)) return fault('date-with-time', { value: typed });
    const days = reading.choices.map(({ day }) => day);
    const outside = days.find((day) => day < FIRST_DAY || day > LAST_DAY);
    if (outside !== undefined) return fault('date-out-of-range', { value: typed });
    const said = days.map((day) => ({ day, words: dayInWords(day, field) }));
    return said.length === 1 ? { kind: 'day', ...said[0]! } : { kind: 'several', days: said };
  } catch (error) {
    if (error instanceof DaysNotThere) return { kind: 'waiting' };
    if (error instanceof CodedError) return { kind: 'fault', why: error.message };
    throw error;
  }
}

function fault(...[code, values]: ConstructorParameters<typeof CodedError>): FieldReading {
  return { kind: 'fault', why: new CodedError(code, values).message };
}

/** A day read back: “Thursday 5 March 2026 · in 3 working days”; where it is closed, with what closes it. */
export function dayInWords(day: Day, field: FieldDays): string {
  const { list, today } = field;
  const closed = list?.has(day) && !list.isWorking(day);
  const name = closed ? field.nameOf(day) : null;
  return [
    longDay(day),
    distance(day, today, closed ? null : list),
    ...(closed ? [name ? `closed: ${name}` : 'a closed day'] : [])
  ].join(' · ');
}

/** In working days where they can be counted and the day is one; else in days. */
function distance(day: Day, today: Day, list: DayList | null): string {
  if (day === today) return 'today';
  if (day === today + 1) return 'tomorrow';
  if (day === today - 1) return 'yesterday';
  const [from, until] = day > today ? [today + 1, day + 1] : [day, today];
  const working = list && list.has(from) && list.has(until - 1) ? list.count(from, until) : null;
  const words = working === null ? many(until - from, 'day') : many(working, 'working day');
  return day > today ? `in ${words}` : `${words} ago`;
}
