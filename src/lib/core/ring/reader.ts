import type { Leave } from '../calendar/leave.ts';
import type { WorkingSpans } from '../calendar/working-spans.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { Reach } from './hold.ts';

/** What happens to a notice while its recipient is on leave. */
export const AWAY_CHOICES = ['stand-in', 'pass', 'wait'] as const;
export type AwayChoice = (typeof AWAY_CHOICES)[number];

/** Somebody who can be told, with what steps 5 and 6 need to know. */
export interface Reader {
  /** How `why` names them; absent where a case has no names. */
  name?: string;
  zone: Zone;
  reach: Reach;
  /** Working hours of their base calendar, by which a wait for leave ends where reach is any time; null in a case that gives none. */
  base: WorkingSpans | null;
  leave: Leave;
  /** Who is asked while they are on the leave that covers an instant; null when nobody is. */
  standInAt(at: InstantMs): Reader | null;
  manager: Reader | null;
}
