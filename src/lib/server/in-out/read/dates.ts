import { CodedError } from '../../../core/errors.ts';
import { formatDay, pad2, parseDay } from '../../../core/time/day.ts';
import { formatTimeOfDay, parseTimeOfDay } from '../../../core/time/time-of-day.ts';

/** How dates with numbers in a column are read. */
export type DateOrder = 'day-first' | 'month-first';

const ISO = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/;
const SHORT = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})$/;
const WITH_TIME = /^(.*?\d)[T ,]+(\d{1,2})[:.](\d{2})(?::00)?$/;

/** What a column's dates say about their order. */
export type OrderFound = DateOrder | 'undecided' | 'no matter';

/**
 * Finds day-first or month-first from a column as a whole: one date whose first number is above 12 decides it for all.
 * `undecided` when every short date can be read both ways and to different dates; `no matter` when none is short.
 */
export function findDateOrder(texts: Iterable<string>): OrderFound {
  let dayFirst = false;
  let monthFirst = false;
  let either = false;
  for (const text of texts) {
    const short = SHORT.exec(datePart(text.trim()));
    if (!short) continue;
    const [first, second] = [Number(short[1]), Number(short[2])];
    if (first > 12 && second <= 12) dayFirst = true;
    else if (second > 12 && first <= 12) monthFirst = true;
    else if (first !== second) either = true;
  }
  if (dayFirst !== monthFirst) return dayFirst ? 'day-first' : 'month-first';
  return either || dayFirst ? 'undecided' : 'no matter';
}

/** A date that can be read both ways, to show when asking. */
export function ambiguousExample(texts: Iterable<string>): string | null {
  for (const text of texts) {
    const short = SHORT.exec(datePart(text.trim()));
    if (short && Number(short[1]) <= 12 && Number(short[2]) <= 12 && Number(short[1]) !== Number(short[2]))
      return text.trim();
  }
  return null;
}

/**
 * Reads a cell that holds a date, or a date with a time of day.
 * @param order for dates like 03/04/2026
 * @throws CodedError `date-format`, `date-impossible`, `date-out-of-range` or `time-format`
 */
export function readDateCell(text: string, order: DateOrder): { date: string; time: string | null } {
  const timed = WITH_TIME.exec(text);
  const date = readDate(timed ? timed[1]! : text, order, text);
  return { date, time: timed ? readTimeCell(`${timed[2]!}:${timed[3]!}`) : null };
}

/** Reads a time of day: `9:00`, `09:00` or `09.00`. @throws CodedError `time-format` */
export function readTimeCell(text: string): string {
  const match = /^(\d{1,2})[:.](\d{2})(?::00)?$/.exec(text);
  if (!match) throw new CodedError('time-format', { value: text });
  return formatTimeOfDay(parseTimeOfDay(`${match[1]!.padStart(2, '0')}:${match[2]!}`));
}

function readDate(text: string, order: DateOrder, asWritten: string): string {
  const iso = ISO.exec(text);
  if (iso) return checkedDate(iso[1]!, iso[2]!, iso[3]!, asWritten);
  const short = SHORT.exec(text);
  if (!short) throw new CodedError('date-format', { value: asWritten });
  const [month, day] = order === 'day-first' ? [short[2]!, short[1]!] : [short[1]!, short[2]!];
  return checkedDate(short[3]!, month, day, asWritten);
}

function checkedDate(year: string, month: string, day: string, asWritten: string): string {
  try {
    return formatDay(parseDay(`${year}-${pad2(Number(month))}-${pad2(Number(day))}`));
  } catch (error) {
    if (error instanceof CodedError) throw new CodedError(error.code, { ...error.params, value: asWritten });
    throw error;
  }
}

function datePart(text: string): string {
  return WITH_TIME.exec(text)?.[1] ?? text;
}
