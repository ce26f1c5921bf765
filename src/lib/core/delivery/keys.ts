import type { AnchorKind, Unit } from '../ring/lead.ts';
import { isDayLevel } from '../ring/lead.ts';
import { formatDay } from '../time/day.ts';
import { formatInstant, type Moment } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';

/**
 * The anchor value by which a ring is known: the date as written for day-level leads, so that adding a time to a due
 * date repeats nothing; the instant for elapsed ones.
 */
export function anchorValue(unit: Unit, anchor: Moment, anchorInstant: InstantMs): string {
  return isDayLevel(unit) ? formatDay(anchor.day) : formatInstant(anchorInstant);
}

/** What makes a ring unique. The subject is a task; parts that a ring does not have are '' or 0, never absent. */
export interface RingKey {
  ruleId: number;
  leadId: string;
  /** Which repeat of the lead: 0 is the first ring. */
  ordinal: number;
  taskId: number;
  anchorKind: AnchorKind;
  anchorValue: string;
  round: number;
}

/** The key as text, for sets and for the Message-ID. */
export function ringKeyText(key: RingKey): string {
  return [key.ruleId, key.leadId, key.ordinal, key.taskId, key.anchorValue, key.round].join('/');
}
