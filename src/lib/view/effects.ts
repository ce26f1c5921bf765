import type { ChangedThing } from './changed-things.ts';

/** One thing that a change would move. Times are written with their place. */
export interface EffectLine {
  kind: 'moved' | 'added' | 'gone' | 'due' | 'overdue' | 'ages';
  taskId: number;
  task: string;
  /** Who is told; null for a due moment or an age. */
  who: string | null;
  /** By which rule; null for a due moment or an age. */
  rule: string | null;
  before: string;
  after: string;
}

/** What a change would do, before it is saved. */
export interface EffectView {
  counts: Record<EffectLine['kind'], number>;
  /** The first lines of each kind. */
  lines: EffectLine[];
  /** How far ahead bells were compared. */
  days: number;
  /** What leaves and is done at once; null where nothing is done but a setting changed. */
  atOnce: AtOnceView | null;
  /** What is sent along when the act is done, so that it is known whether this still holds; null for a setting. */
  stamp: string | null;
}

/** What leaves and is done in the minute of an act, by any rule. */
export interface AtOnceView {
  messages: number;
  /** Different people who get them. */
  people: number;
  /** The first of them. */
  listed: { subject: string; to: string[]; rules: string[]; tasks: number }[];
  /** Rules that would send far more than was foreseen: they stop, and their keeper is asked. */
  stopped: { rule: string; messages: number }[];
  /** What rules do because of it. */
  acts: number;
  actsListed: string[];
  /** What is asked no more. */
  questions: string[];
  /** What is changed, by the act and by rules because of it: the first of it, and how much more. */
  changed: { things: ChangedThing[]; more: number };
}

/** Whether anything would move at all. */
export function movesAnything({ counts }: EffectView): boolean {
  return Object.values(counts).some((count) => count > 0);
}
