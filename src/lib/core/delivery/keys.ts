import type { Unit } from '../ring/lead.ts';
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
