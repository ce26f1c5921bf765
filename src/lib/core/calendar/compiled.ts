import type { Day } from '../time/day.ts';
import type { Zone } from '../time/zone.ts';
import type { Calendar } from './spec.ts';
import { WorkingDays } from './working-days.ts';
import { WorkingSpans } from './working-spans.ts';

/** A base calendar in a zone, compiled: its working days by date and its working intervals by instant. */
export class CompiledCalendar {
  readonly calendar: Calendar;
  readonly zone: Zone;
  readonly days: WorkingDays;
  readonly spans: WorkingSpans;
  /** Of a workspace's calendar its id; null for one that is nobody's. */
  readonly id: number | null;

  constructor(calendar: Calendar, zone: Zone, id: number | null = null) {
    this.id = id;
    this.calendar = calendar;
    this.zone = zone;
    this.days = new WorkingDays(calendar, zone);
    this.spans = new WorkingSpans(calendar, zone);
  }

  /** The name of the holiday that closes a date; null where none is named. */
  holidayName(day: Day): string | null {
    return this.calendar.exceptions.get(day)?.name ?? null;
  }
}
