import type { Zone } from '../../core/time/zone.ts';

/** Somebody who reads a screen: on whose wall times are written, and whose private tasks are named. */
export interface Viewer {
  zone: Zone;
  /** Null for nobody in particular: then no private task is named. */
  personId: number | null;
}
