import type { CalendarSpec } from '../calendar/spec.ts';
import type { LeaveSpec } from '../calendar/leave.ts';
import type { RenewFrom } from '../recurrence/renewal.ts';
import type { LateChoice } from '../ring/if-late.ts';
import type { AnchorKind, ClosedDayRule, Unit } from '../ring/lead.ts';
import type { EndOfDay } from '../ring/moments.ts';
import type { AwayChoice } from '../ring/reader.ts';

/** What a case can ask. */
export const ASKS = ['ring', 'dueMoment', 'overdue', 'daysLeft', 'week', 'renew'] as const;
export type Ask = (typeof ASKS)[number];

/** Somebody who may be told instead: their calendar is their reach. */
export interface ReaderSpec {
  zone?: string;
  calendar?: CalendarSpec;
  leave?: LeaveSpec[];
  standIn?: ReaderSpec;
}

/** One case of the `ringtime` command, of the right shape but not yet read. docs/formats.md lists the fields. */
export interface RingCase {
  id?: string | number;
  anchor: string;
  anchorZone?: string;
  as?: AnchorKind;
  offset?: { n: number; unit: Unit };
  closedDay?: ClosedDayRule;
  time?: string;
  zone?: string;
  calendar?: CalendarSpec & { zone?: string };
  endOfDay?: EndOfDay;
  hold?: { zone?: string; calendar?: CalendarSpec; quiet?: string[] };
  leave?: LeaveSpec[];
  away?: AwayChoice;
  standIn?: ReaderSpec;
  manager?: ReaderSpec;
  ifLate?: LateChoice;
  repeat?: { n: number; unit: Unit; count: number };
  ask?: Ask;
  at?: string;
  pauses?: { from: string; to: string }[];
  rhythm?: string | { n: number; unit: Unit };
  from?: RenewFrom;
}

export type RingAnswer = Record<string, unknown>;
