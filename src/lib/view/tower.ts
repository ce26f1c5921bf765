import type { Band } from '../core/ring/overdue.ts';

/** How much is overdue by so many working days. */
export interface OverdueBand {
  band: Band;
  count: number;
}

/** Somebody whose work waits for others. */
export interface StuckPerson {
  /** Null: nobody owns it. */
  personId: number | null;
  name: string;
  count: number;
  /** Working days since the longest began to wait. */
  workingDays: number;
}

export interface SlippingTask {
  id: number;
  name: string;
  /** How often its date was moved later in this round. */
  slips: number;
}

/** A day on which more rings for somebody than they take. */
export interface LoudDay {
  personId: number;
  name: string;
  /** Their date. */
  day: string;
  count: number;
  /** The most that they set; null where they set none. */
  cap: number | null;
}
