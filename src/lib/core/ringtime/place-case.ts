import type { CalendarSpec } from '../calendar/spec.ts';

/** A case that asks where a task stands on a person's Desk, of the right shape but not yet read. docs/formats.md lists the fields. */
export interface PlaceCase {
  id?: string | number;
  ask: 'place';
  /** A date, a date with a time of day, or null. */
  start?: string | null;
  due?: string | null;
  anchorZone?: string;
  /** When it is asked. */
  at: string;
  /** Where the person is. */
  zone?: string;
  /** Of the person; its weeks alone count. */
  calendar?: CalendarSpec & { zone?: string };
  status?: 'open' | 'finished' | 'closed' | 'parked';
  reviewOn?: string;
  placed?: boolean;
  /** `today`, `rest`, `after`, `further`, or a date. */
  movedTo?: string;
  movedAt?: string;
}
