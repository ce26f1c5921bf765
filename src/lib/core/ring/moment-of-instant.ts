import { MS_PER_DAY, MS_PER_MINUTE } from '../time/day.ts';
import { ceilToMinute, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';

/** An instant as an anchor: the ring's zone is its own, and like every planned instant it is taken to the whole minute. */
export function momentOfInstant(instant: InstantMs, ringZone: Zone): Moment {
  const local = ringZone.localOf(ceilToMinute(instant));
  const day = Math.floor(local / MS_PER_DAY);
  return { day, minute: Math.floor((local - day * MS_PER_DAY) / MS_PER_MINUTE), zone: ringZone };
}
