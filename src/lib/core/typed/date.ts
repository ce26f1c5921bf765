import { CodedError } from '../errors.ts';
import { MS_PER_DAY, MS_PER_MINUTE, type Day } from '../time/day.ts';
import { longDay } from '../time/format.ts';
import type { LocalMs } from '../time/zone.ts';
import { parseTimeOfDay } from '../time/time-of-day.ts';
import { DAY_PHRASES, type CountedDays } from './day-words.ts';
import { readTypedTime, type TypedTime } from './time.ts';
import { withoutTail } from './without-tail.ts';

/** Whose words they are: dates are read on their wall, working days on their calendar. */
export interface Typist {
  /** Date and time on their wall now. */
  wall: LocalMs;
  days: CountedDays;
  /** The first day of their working week, 0 Monday to 6 Sunday. */
  weekStart: number;
}

/** Reads what our own words do not say; null where it does not know it either. */
export type OtherReader = (
  text: string,
  typist: Typist,
  ends: boolean
) => (DateReading & { certain: boolean }) | null;

/** A date as somebody typed it. */
export interface TypedDate {
  day: Day;
  /** `HH:MM`; null without a time. */
  time: string | null;
}

export interface DateReading {
  /** What it can mean, the likeliest first; more than one must be asked, none says why in `fault`. */
  choices: (TypedDate & { label: string })[];
  /** Why words that say a date are none: “31.02. is not a date: February 2026 has 28 days.” */
  fault?: string;
  /** The words before it, where it stands at the end of a text. */
  rest: string;
}

/**
 * Reads a text as a date with perhaps a time. With `ends` it may stand at the end of other words, which are given back.
 * @param otherwise asked where our own words do not say it
 * @returns null when it is none
 * @throws CodedError `date-out-of-range`, `no-working-time` where its working days cannot be counted so far
 * @example readTypedDate('fri 3pm', …) // the coming Friday at 15:00
 */
export function readTypedDate(
  text: string,
  typist: Typist,
  ends = false,
  otherwise: OtherReader = () => null
): DateReading | null {
  const plain = text.replace(/\s+/g, ' ').trim();
  const time = readTypedTime(plain);
  // The time is at the end, or at the beginning where the date follows.
  const withoutTime = time ? time.rest : plain;
  const found = readDays(withoutTime, typist, ends);
  if (found) {
    if (found.fault) return { choices: [], rest: found.rest, fault: found.fault };
    const before = time ? null : timeBefore(found.rest);
    return before ? combine({ ...found, rest: before.rest }, before, typist) : combine(found, time, typist);
  }
  const other = otherwise(plain, typist, ends);
  const bare = time && !other?.certain ? readBare(withoutTime, typist, ends, time) : null;
  return bare ? combine(bare, time, typist) : other;
}

/** A time that stands before its date: “3pm mon”. */
function timeBefore(text: string): TypedTime | null {
  const time = readTypedTime(text);
  return time && text.startsWith(time.rest) ? time : null;
}

interface Days {
  days: Day[];
  rest: string;
  fault?: string;
}

const BEFORE_IT = '(?:by |due |until |till |on )?';
/** Each phrase with the words that may lead to it: as a whole text, at the end of one, and by itself. */
const FORMS = DAY_PHRASES.map(({ words, read }) => ({
  whole: new RegExp(`^${BEFORE_IT}(?:${words.source})$`, 'i'),
  atEnd: new RegExp(`(?:^|[\\s,])(${BEFORE_IT}(?:${words.source}))$`, 'i'),
  words,
  read
}));

function readDays(text: string, { wall, days: counted, weekStart }: Typist, ends: boolean): Days | null {
  const today = Math.floor(wall / MS_PER_DAY);
  for (const { whole, atEnd, words, read } of FORMS) {
    const match = (ends ? atEnd : whole).exec(text);
    if (!match) continue;
    const start = ends ? match.index + match[0].length - match[1]!.length : 0;
    const said = words.exec(text.slice(start))!;
    const meant = read(said, { today, days: counted, weekStart });
    const days = [...new Set(meant)].filter((day) => typeof day === 'number');
    const rest = withoutTail(text.slice(0, start));
    if (days.length > 0) return { days, rest };
    return {
      days,
      rest,
      fault: new CodedError('date-impossible', { value: said[0], why: String(meant[0]) }).message
    };
  }
  return null;
}

/** A time alone is today's while it is still ahead, else tomorrow's. */
function readBare(text: string, { wall }: Typist, ends: boolean, time: TypedTime): Days | null {
  if (text !== '' && !ends) return null;
  // “Call 3” is no appointment: what stands behind other words must say that it is a time.
  if (text !== '' && !time.sure) return null;
  const today = Math.floor(wall / MS_PER_DAY);
  return { days: [isPast(today, time.choices[0]!, wall) ? today + 1 : today], rest: text };
}

function combine({ days, rest }: Days, time: TypedTime | null, { wall }: Typist): DateReading {
  const today = Math.floor(wall / MS_PER_DAY);
  const times: (string | null)[] = time ? time.choices : [null];
  const choices = days.flatMap((day) =>
    times.map((at) => ({
      day,
      time: at,
      label: `${day === today ? 'today, ' : ''}${longDay(day)}${at ? ` at ${at}` : ''}`
    }))
  );
  // Where it must be asked, what has passed already is not meant.
  const ahead = choices.filter(({ day, time: at }) => !isPast(day, at, wall));
  return { choices: choices.length > 1 && ahead.length > 0 ? ahead : choices, rest };
}

function isPast(day: Day, time: string | null, wall: LocalMs): boolean {
  return time !== null && day * MS_PER_DAY + parseTimeOfDay(time) * MS_PER_MINUTE <= wall;
}
