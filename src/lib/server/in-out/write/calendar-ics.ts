import { createHash } from 'node:crypto';
import ICAL from 'ical.js';
import { formatDay, parseDay } from '../../../core/time/day.ts';
import type { CalendarRecord } from '../../store/calendars.ts';

/**
 * A calendar as an iCalendar file (RFC 5545): closed days as all-day events, opaque; days with other hours as transparent ones that
 * carry the hours. The weeks go along, so that the file read back gives the same calendar.
 * @param at when it is written, for DTSTAMP
 */
export function writeCalendarFile(calendar: Omit<CalendarRecord, 'id'>, at: Date): string {
  const root = new ICAL.Component('vcalendar');
  root.addPropertyWithValue('version', '2.0');
  root.addPropertyWithValue('prodid', '-//Early Bell//Calendars//EN');
  root.addPropertyWithValue('x-wr-calname', calendar.name);
  const weeks = { week: calendar.week, weeks: calendar.weeks };
  root.addPropertyWithValue('x-early-bell-weeks', Buffer.from(JSON.stringify(weeks)).toString('base64url'));
  const stamp = ICAL.Time.fromJSDate(at, true);
  for (const { date, name, intervals } of calendar.days) {
    const event = new ICAL.Component('vevent');
    event.addPropertyWithValue('uid', `${uidOf(calendar.name, date)}@early-bell`);
    event.addPropertyWithValue('dtstamp', stamp);
    event.addPropertyWithValue('dtstart', ICAL.Time.fromDateString(date));
    event.addPropertyWithValue('dtend', ICAL.Time.fromDateString(formatDay(parseDay(date) + 1)));
    if (name !== null) event.addPropertyWithValue('summary', name);
    event.addPropertyWithValue('transp', intervals.length === 0 ? 'OPAQUE' : 'TRANSPARENT');
    if (intervals.length > 0) event.addPropertyWithValue('x-early-bell-hours', intervals.join('; '));
    root.addSubcomponent(event);
  }
  return `${root.toString()}\r\n`;
}

/** The same day of the same calendar keeps its identity from export to export. */
function uidOf(calendar: string, date: string): string {
  return createHash('sha256').update(`${calendar}\n${date}`).digest('hex').slice(0, 24);
}
