import type { ChangedThing } from './changed-things.ts';
import type { EffectView } from './effects.ts';

/** A change in a list. */
export interface ChangeRowView {
  id: number;
  title: string;
  by: string;
  at: string;
  undone: boolean;
}

/** So many, of which the first are listed. */
export interface Counted<T> {
  count: number;
  listed: T[];
}

/** A message that has left because of a change. */
export interface LeftView {
  subject: string;
  to: string;
  at: string;
}

/** What rules did because of a change: the same thing once, with how often. */
export interface CausedView {
  title: string;
  count: number;
  ruleId: number | null;
  /** Its run, where it was done once. */
  runId: number | null;
}

/** A recorded change: who did what, what came of it, and whether it can be taken back. Times are on the viewer’s wall. */
export interface ChangeView {
  id: number;
  title: string;
  by: string;
  at: string;
  /** By which way. */
  way: string;
  undone: { by: string; at: string; changeId: number } | null;
  /** Why it cannot be taken back; null where it can. */
  stays: string | null;
  /** The run of a sweep with which it is taken back; null for every other. */
  sweepRunId: number | null;
  /** Until when it can be taken back. */
  until: string;
  things: ChangedThing[];
  /** Those that are not listed. */
  more: number;
  /** What rules did because of it. */
  caused: CausedView[];
  left: Counted<LeftView>;
  /** How many read what has left, and can be told that it was taken back; 0 once they have been. */
  readers: number;
}

/** What taking a change back would do. */
export interface UndoPreviewView {
  things: ChangedThing[];
  more: number;
  /** Later edits that stay, by whom. */
  kept: Counted<{ what: string; by: string }>;
  /** What waits and would not be told. */
  withdrawn: Counted<{ task: string; to: string; at: string }>;
  left: Counted<LeftView>;
  /** Null where it concerns so many tasks that it is not worked out. */
  effect: EffectView | null;
}
