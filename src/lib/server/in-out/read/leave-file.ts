import ICAL from 'ical.js';
import Papa from 'papaparse';
import { CodedError } from '../../../core/errors.ts';
import { dayFromParts, formatDay, type Day } from '../../../core/time/day.ts';
import { formatTimeOfDay } from '../../../core/time/time-of-day.ts';
import type { Zone } from '../../../core/time/zone.ts';
import { zoneNamed } from '../../../core/time/zone.ts';
import { parseIcs } from './calendar-ics.ts';
import { findDateOrder, readDateCell } from './dates.ts';

/** One stretch of leave as a file gives it, or why it cannot be read. */
export interface LeaveRow {
  /** Of the file: a line of a sheet, an event of a calendar. */
  line: number;
  /** Whoever is on leave, by name or address; those that a calendar names, the likeliest first. */
  people: string[];
  fromDate: string;
  fromTime: string | null;
  untilDate: string;
  untilTime: string | null;
  standIn: string;
  note: string;
  problem: string | null;
}

/** When a timed event of a calendar begins and ends; on whose wall is known once its person is. */
export interface Timed {
  from: number;
  until: number;
}

export type FileRow = LeaveRow & { timed: Timed | null };

/** The headings of a sheet of leave by which its columns are known. */
const HEADINGS = {
  person: ['person', 'name', 'who', 'email', 'employee'],
  from: ['from', 'start', 'begins', 'first day'],
  until: ['until', 'to', 'end', 'last day'],
  standIn: ['stand-in', 'stand in', 'standin', 'cover'],
  note: ['note', 'reason', 'notes', 'summary']
} as const;
type Column = keyof typeof HEADINGS;
const MOST_ROWS = 5_000;
const NOTHING = { fromDate: '', fromTime: null, untilDate: '', untilTime: null } as const;

/**
 * Reads leave from a CSV sheet (RFC 4180) or from a calendar (RFC 5545).
 * @throws CodedError `leave-columns`, `import-header-only`, `import-too-many-rows` or `ics-format`
 */
export function readLeaveFile(text: string): FileRow[] {
  return /^\ufeff?\s*BEGIN:VCALENDAR/i.test(text) ? readCalendar(text) : readSheet(text);
}

function readSheet(text: string): FileRow[] {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\ufeff/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (heading) => heading.trim().toLowerCase().replace(/_/g, ' ')
  });
  const columns = parsed.meta.fields ?? [];
  const of = (column: Column) => HEADINGS[column].find((heading) => columns.includes(heading));
  const [person, from, until] = [of('person'), of('from'), of('until')];
  if (!person || !from) throw new CodedError('leave-columns', { columns: columns.join(', ').slice(0, 200) });
  if (parsed.data.length === 0) throw new CodedError('import-header-only');
  if (parsed.data.length > MOST_ROWS) throw new CodedError('import-too-many-rows', { most: MOST_ROWS });
  const dates = parsed.data.flatMap((row) => [row[from] ?? '', until ? (row[until] ?? '') : '']);
  const order = findDateOrder(dates);
  return parsed.data.map((row, i) => {
    const cell = (column: Column) => (row[of(column) ?? ''] ?? '').trim();
    const said = {
      ...{ line: i + 2, people: [cell('person')], standIn: cell('standIn'), note: cell('note'), timed: null }
    };
    try {
      const read = (date: string) => {
        if (order === 'undecided') readDateCell(date, 'day-first');
        if (order === 'undecided' && /^\d{1,2}\D\d{1,2}\D\d{4}/.test(date))
          throw new CodedError('leave-date-two-ways', { date });
        return readDateCell(date, order === 'month-first' ? 'month-first' : 'day-first');
      };
      const first = read(cell('from'));
      const last = cell('until') === '' ? { date: first.date, time: null } : read(cell('until'));
      const when = { fromDate: first.date, fromTime: first.time, untilDate: last.date, untilTime: last.time };
      return { ...said, ...when, problem: null };
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      return { ...said, ...NOTHING, problem: error.message };
    }
  });
}

/** Events that repeat are not leave; cancelled ones are none. */
function readCalendar(text: string): FileRow[] {
  const events = parseIcs(text).getAllSubcomponents('vevent');
  if (events.length > MOST_ROWS) throw new CodedError('import-too-many-rows', { most: MOST_ROWS });
  return events.flatMap((component, i): FileRow[] => {
    if (component.getFirstPropertyValue('status') === 'CANCELLED') return [];
    const summary = textOf(component, 'summary');
    const said = {
      line: i + 1,
      people: peopleOf(component, summary),
      standIn: '',
      note: summary.slice(0, 200)
    };
    const start = component.getFirstPropertyValue('dtstart') as ICAL.Time | null;
    if (!start || typeof start !== 'object')
      return [{ ...said, ...NOTHING, timed: null, problem: 'The event has no start.' }];
    if (component.getFirstProperty('rrule'))
      return [
        { ...said, ...NOTHING, timed: null, problem: 'The event repeats. Enter each leave separately.' }
      ];
    const event = new ICAL.Event(component);
    return [{ ...said, ...whenOf(start, event.endDate) }];
  });
}

/** DTEND is not included (RFC 5545 §3.6.1), the last day of leave is. */
function whenOf(start: ICAL.Time, end: ICAL.Time): Omit<FileRow, 'line' | 'people' | 'standIn' | 'note'> {
  if (start.isDate) {
    const [from, after] = [dayOf(start), dayOf(end)];
    const until = Math.max(from, after - 1);
    const days = { fromDate: formatDay(from), fromTime: null, untilDate: formatDay(until), untilTime: null };
    return { ...days, timed: null, problem: null };
  }
  const timed = { from: instantOf(start), until: instantOf(end) };
  if (!Number.isFinite(timed.from) || !Number.isFinite(timed.until))
    return { ...NOTHING, timed: null, problem: 'The zone of the event is not known.' };
  return { ...NOTHING, timed, problem: null };
}

/** A timed event on somebody's wall; one that ends at midnight ends with the day before. */
export function onWall(
  { from, until }: Timed,
  zone: Zone
): Pick<LeaveRow, 'fromDate' | 'fromTime' | 'untilDate' | 'untilTime'> {
  const wall = (instant: number) => {
    const local = zone.localOf(instant);
    const day = Math.floor(local / 86_400_000);
    return { day, minute: Math.floor((local - day * 86_400_000) / 60_000) };
  };
  const [first, last] = [wall(from), wall(until)];
  const endsAtMidnight = last.minute === 0 && last.day > first.day;
  return {
    fromDate: formatDay(first.day),
    fromTime: first.minute === 0 ? null : formatTimeOfDay(first.minute),
    untilDate: formatDay(endsAtMidnight ? last.day - 1 : last.day),
    untilTime: endsAtMidnight ? null : formatTimeOfDay(last.minute)
  };
}

/** Addresses of those who take part, then what the event is called. */
function peopleOf(component: ICAL.Component, summary: string): string[] {
  const addresses = [
    ...component.getAllProperties('attendee'),
    ...component.getAllProperties('organizer')
  ].map((property) =>
    String(property.getFirstValue())
      .replace(/^mailto:/i, '')
      .trim()
  );
  return [...addresses, summary].filter(Boolean);
}

function instantOf(time: ICAL.Time): number {
  const zone = time.zone?.tzid;
  const local = Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute);
  if (zone === 'UTC' || time.zone === ICAL.Timezone.utcTimezone) return local;
  const named = String((time as unknown as { timezone?: string }).timezone ?? zone ?? '');
  try {
    return zoneNamed(named).instantOf(local);
  } catch {
    return NaN;
  }
}

function dayOf({ year, month, day }: ICAL.Time): Day {
  return dayFromParts(year, month, day);
}

function textOf(component: ICAL.Component, name: string): string {
  const value = component.getFirstPropertyValue(name);
  return typeof value === 'string' ? value.trim() : '';
}
