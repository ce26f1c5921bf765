import { CodedError } from '../errors.ts';
import { MS_PER_DAY, dayFromParts, daysInMonth, type Day } from '../time/day.ts';
import type { InstantMs, LocalMs } from '../time/zone.ts';

/** How often a rule repeats; the order is from the longest to the shortest. */
export const FREQUENCIES = [
  'YEARLY',
  'MONTHLY',
  'WEEKLY',
  'DAILY',
  'HOURLY',
  'MINUTELY',
  'SECONDLY'
] as const;
export type Frequency = (typeof FREQUENCIES)[number];

/** A weekday of BYDAY, 0 is Monday; `n` is its number within the month or year, 0 stands for every one. */
export interface ByDay {
  n: number;
  weekday: number;
}

/** The end of a rule, included: an instant, a local time, or a whole date. */
export type Until =
  { kind: 'utc'; at: InstantMs } | { kind: 'local'; at: LocalMs } | { kind: 'date'; day: Day };

/** A recurrence rule (RFC 5545 §3.3.10), with the treatment of dates that do not exist (RFC 7529 §4.1). */
export interface RecurrenceRule {
  frequency: Frequency;
  interval: number;
  count: number | null;
  until: Until | null;
  bySecond: number[];
  byMinute: number[];
  byHour: number[];
  byDay: ByDay[];
  byMonthDay: number[];
  byYearDay: number[];
  byWeekNo: number[];
  byMonth: number[];
  bySetPos: number[];
  /** First day of the week, 0 is Monday. */
  weekStart: number;
  /** What happens to a date that its month lacks: left out, or the day before or after it. */
  skip: 'OMIT' | 'BACKWARD' | 'FORWARD';
}

const WEEKDAY_CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const PARTS = [
  'FREQ',
  'INTERVAL',
  'COUNT',
  'UNTIL',
  'BYSECOND',
  'BYMINUTE',
  'BYHOUR',
  'BYDAY',
  'BYMONTHDAY',
  'BYYEARDAY',
  'BYWEEKNO',
  'BYMONTH',
  'BYSETPOS',
  'WKST',
  'RSCALE',
  'SKIP'
];
/** More would never end within the dates handled. */
const MOST_INTERVAL = 1_000_000_000;
const MOST_COUNT = 10_000_000;

/**
 * Reads a rule as it stands after `RRULE:`; the name of the property may stand before it.
 * @throws CodedError `rrule-format`, with the part in which the fault stands
 */
export function parseRecurrenceRule(text: string): RecurrenceRule {
  const parts = splitParts(text);
  const numbers = (name: string, least: number, most: number, negative = false) =>
    readNumbers(parts.get(name), name, least, most, negative);
  const rule: RecurrenceRule = {
    frequency: readFrequency(parts.get('FREQ')),
    interval: readCount(parts.get('INTERVAL'), 'INTERVAL', MOST_INTERVAL) ?? 1,
    count: readCount(parts.get('COUNT'), 'COUNT', MOST_COUNT),
    until: readUntil(parts.get('UNTIL')),
    // A leap second (60) is read as the last second of its minute: the clocks here have none.
    bySecond: unique(numbers('BYSECOND', 0, 60).map((second) => Math.min(second, 59))),
    byMinute: numbers('BYMINUTE', 0, 59),
    byHour: numbers('BYHOUR', 0, 23),
    byDay: readByDay(parts.get('BYDAY')),
    byMonthDay: numbers('BYMONTHDAY', 1, 31, true),
    byYearDay: numbers('BYYEARDAY', 1, 366, true),
    byWeekNo: numbers('BYWEEKNO', 1, 53, true),
    byMonth: numbers('BYMONTH', 1, 12),
    bySetPos: numbers('BYSETPOS', 1, 366, true),
    weekStart: readWeekday(parts.get('WKST') ?? 'MO', 'WKST'),
    skip: readSkip(parts.get('SKIP'), parts.get('RSCALE'))
  };
  checkTogether(rule);
  return rule;
}

function splitParts(text: string): Map<string, string> {
  const parts = new Map<string, string>();
  for (const piece of text
    .trim()
    .replace(/^RRULE:/i, '')
    .replace(/;$/, '')
    .split(';')) {
    const [name = '', value, ...rest] = piece.split('=');
    const upper = name.trim().toUpperCase();
    if (value === undefined || value.trim() === '' || rest.length > 0)
      throw fault(upper || 'it', 'is not NAME=VALUE');
    if (!PARTS.includes(upper)) throw fault(upper, 'is no part of a rule');
    if (parts.has(upper)) throw fault(upper, 'is there twice');
    parts.set(upper, value.trim().toUpperCase());
  }
  return parts;
}

/** What RFC 5545 §3.3.10 says must not go together. */
function checkTogether(rule: RecurrenceRule): void {
  const { frequency, byDay, byWeekNo, byYearDay, byMonthDay, bySetPos, count, until } = rule;
  if (count !== null && until) throw fault('COUNT', 'and UNTIL exclude each other');
  if (byDay.some(({ n }) => n !== 0)) {
    if (frequency !== 'MONTHLY' && frequency !== 'YEARLY')
      throw fault('BYDAY', `with a number needs MONTHLY or YEARLY, not ${frequency}`);
    if (frequency === 'YEARLY' && byWeekNo.length > 0)
      throw fault('BYDAY', 'with a number cannot go with BYWEEKNO');
  }
  if (byWeekNo.length > 0 && frequency !== 'YEARLY')
    throw fault('BYWEEKNO', `needs YEARLY, not ${frequency}`);
  if (byYearDay.length > 0 && ['DAILY', 'WEEKLY', 'MONTHLY'].includes(frequency))
    throw fault('BYYEARDAY', `cannot go with ${frequency}`);
  if (byMonthDay.length > 0 && frequency === 'WEEKLY') throw fault('BYMONTHDAY', 'cannot go with WEEKLY');
  const others = [
    rule.bySecond,
    rule.byMinute,
    rule.byHour,
    byDay,
    byMonthDay,
    byYearDay,
    byWeekNo,
    rule.byMonth
  ];
  if (bySetPos.length > 0 && others.every((list) => list.length === 0))
    throw fault('BYSETPOS', 'needs another BY part to choose from');
}

function readFrequency(text: string | undefined): Frequency {
  const frequency = FREQUENCIES.find((known) => known === text);
  if (!frequency) throw fault('FREQ', text === undefined ? 'is missing' : `cannot be ${text}`);
  return frequency;
}

function readCount(text: string | undefined, name: string, most: number): number | null {
  if (text === undefined) return null;
  const value = /^\d{1,12}$/.test(text) ? Number(text) : NaN;
  if (!(value >= 1 && value <= most)) throw fault(name, `must be a whole number from 1 to ${most}`);
  return value;
}

function readNumbers(
  text: string | undefined,
  name: string,
  least: number,
  most: number,
  negative: boolean
): number[] {
  if (text === undefined) return [];
  const values = text.split(',').map((piece) => {
    const value = /^[+-]?\d{1,4}$/.test(piece.trim()) ? Number(piece) : NaN;
    const size = negative ? Math.abs(value) : value;
    if (!(size >= least && size <= most)) {
      throw fault(name, `takes ${negative ? `±${least} to ±${most}` : `${least} to ${most}`}, not ${piece}`);
    }
    return value;
  });
  return unique(values);
}

function readByDay(text: string | undefined): ByDay[] {
  if (text === undefined) return [];
  return text.split(',').map((piece) => {
    const match = /^([+-]?\d{1,2})?([A-Z]{2})$/.exec(piece.trim());
    const n = match?.[1] === undefined ? 0 : Number(match[1]);
    if (!match || Math.abs(n) > 53 || (match[1] !== undefined && n === 0))
      throw fault('BYDAY', `cannot hold ${piece}`);
    return { n, weekday: readWeekday(match[2]!, 'BYDAY') };
  });
}

function readWeekday(code: string, name: string): number {
  const weekday = WEEKDAY_CODES.indexOf(code);
  if (weekday < 0) throw fault(name, `takes ${WEEKDAY_CODES.join(', ')}, not ${code}`);
  return weekday;
}

function readUntil(text: string | undefined): Until | null {
  if (text === undefined) return null;
  const match = /^(\d{4})-?(\d{2})-?(\d{2})(?:T(\d{2}):?(\d{2}):?(\d{2})?(Z)?)?$/.exec(text);
  const [year, month, dayOfMonth] = [Number(match?.[1]), Number(match?.[2]), Number(match?.[3])];
  if (!match || month < 1 || month > 12 || dayOfMonth < 1 || dayOfMonth > daysInMonth(year, month))
    throw fault('UNTIL', `cannot be ${text}; write 20260331, 20260331T090000 or 20260331T090000Z`);
  const day = dayFromParts(year, month, dayOfMonth);
  if (match[4] === undefined) return { kind: 'date', day };
  const [hour, minute, second] = [Number(match[4]), Number(match[5]), Number(match[6] ?? 0)];
  if (hour > 23 || minute > 59 || second > 60) throw fault('UNTIL', `cannot be ${text}`);
  const at = day * MS_PER_DAY + ((hour * 60 + minute) * 60 + second) * 1000;
  return match[7] ? { kind: 'utc', at } : { kind: 'local', at };
}

function readSkip(text: string | undefined, scale: string | undefined): RecurrenceRule['skip'] {
  if (scale !== undefined && scale !== 'GREGORIAN')
    throw fault('RSCALE', `can only be GREGORIAN, not ${scale}`);
  if (text === undefined) return 'OMIT';
  if (scale === undefined) throw fault('SKIP', 'needs RSCALE=GREGORIAN too');
  if (text !== 'OMIT' && text !== 'BACKWARD' && text !== 'FORWARD')
    throw fault('SKIP', `takes OMIT, BACKWARD or FORWARD, not ${text}`);
  return text;
}

function unique(values: number[]): number[] {
  return [...new Set(values)].sort((a, b) => a - b);
}

function fault(part: string, detail: string): CodedError {
  return new CodedError('rrule-format', { part, detail });
}
