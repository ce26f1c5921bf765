import type { Shift } from '../../ring/shift.ts';
import type { Trace } from '../../ring/why.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';

/** Which repeat of a ring, and whether its steps are written down. */
export interface Repeat {
  k: number;
  trace: Trace;
}
/** Most rings are of these: no other is made for them. */
export const FIRST: Repeat = { k: 0, trace: null };

export function repeatOf(k: number, trace: Trace): Repeat {
  return k === 0 && trace === null ? FIRST : { k, trace };
}

/** By what a repeat comes after the first ring; null where the lead has none. */
export function shiftOf({ lead }: CompiledLead, k: number): Shift | null {
  const repeat = lead.kind === 'offset' ? lead.repeat : null;
  return repeat && { k, n: repeat.n, unit: repeat.unit };
}
