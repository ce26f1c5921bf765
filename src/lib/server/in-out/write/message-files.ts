import ICAL from 'ical.js';
import Papa from 'papaparse';
import type { CalendarEntry } from '../../../core/message/attached.ts';

/** Cells that a spreadsheet would run as a formula are written defused. */
const FORMULA = /^[=+\-@\t\r]/;

/** Rows of cells as CSV (RFC 4180). */
export function writeTable(rows: readonly (readonly string[])[]): string {
  const cells = rows.map((row) => [...row]);
  return `${Papa.unparse(cells, { escapeFormulae: FORMULA })}\r\n`;
}

/**
 * Dates as an iCalendar file (RFC 5545): all-day events, or moments in UTC; they take no time of anybody's day.
 * @param atMs when it is written, for DTSTAMP
 */
export function writeDates(entries: readonly CalendarEntry[], atMs: number): string {
  const root = new ICAL.Component('vcalendar');
  root.addPropertyWithValue('version', '2.0');
  root.addPropertyWithValue('prodid', '-//Early Bell//Messages//EN');
  root.addPropertyWithValue('method', 'PUBLISH');
  const stamp = ICAL.Time.fromJSDate(new Date(atMs), true);
  for (const { uid, summary, description, date, at } of entries) {
    const event = new ICAL.Component('vevent');
    event.addPropertyWithValue('uid', uid);
    event.addPropertyWithValue('dtstamp', stamp);
    event.addPropertyWithValue(
      'dtstart',
      date === null ? ICAL.Time.fromJSDate(new Date(at!), true) : ICAL.Time.fromDateString(date)
    );
    event.addPropertyWithValue('summary', summary);
    if (description) event.addPropertyWithValue('description', description);
    event.addPropertyWithValue('transp', 'TRANSPARENT');
    root.addSubcomponent(event);
  }
  return `${root.toString()}\r\n`;
}
