import { CodedError } from '../errors.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { MS_PER_DAY, MS_PER_MINUTE } from '../time/day.ts';
import { ceilToMinute, type Moment } from '../time/instant.ts';
import type { AnchorKind } from './lead.ts';

/** What an offset can be counted from, and what each is. */
export interface AnchorFacts {
  /** A date of the calendar, or something that happened at an instant. */
  is: 'date' | 'instant';
  /** Which moment a date stands for when minutes are counted from it: its end or its beginning. */
  marks: AnchorKind;
  /** Known only once it has happened: nothing can be counted back from it. */
  onlyAfter: boolean;
}

const end: AnchorFacts = { is: 'date', marks: 'due', onlyAfter: false };
const beginning: AnchorFacts = { is: 'date', marks: 'start', onlyAfter: false };
const happened: AnchorFacts = { is: 'instant', marks: 'start', onlyAfter: true };

/** Every anchor by its name. */
export const ANCHORS = {
  due: end,
  start: beginning,
  'remind on': beginning,
  'review date': end,
  'promise date': end,
  'custom date, from': beginning,
  'custom date, by': end,
  'countdown anchor': beginning,
  created: happened,
  assigned: happened,
  'last touched': happened,
  finished: happened,
  closed: happened,
  'phase entered': happened,
  acknowledged: happened,
  'earlier ring': happened,
  ladder: end
} as const satisfies Record<string, AnchorFacts>;
export type AnchorName = keyof typeof ANCHORS;

/**
 * Refuses to count back from what is not known before it happens, and offers the due date.
 * @throws CodedError `anchor-only-after`
 * @example checkAnchor('finished', -2) // “Nothing can be counted back from when a task was finished …”
 */
export function checkAnchor(name: AnchorName, n: number): void {
  if (n < 0 && ANCHORS[name].onlyAfter) throw new CodedError('anchor-only-after', { what: name }, 'offset.n');
}

/** An instant as an anchor: the ring's zone is its own, and like every planned instant it is taken to the whole minute. */
export function momentOfInstant(instant: InstantMs, ringZone: Zone): Moment {
  const local = ringZone.localOf(ceilToMinute(instant));
  const day = Math.floor(local / MS_PER_DAY);
  return { day, minute: Math.floor((local - day * MS_PER_DAY) / MS_PER_MINUTE), zone: ringZone };
}
