import type { RuleFault } from '../core/rule/check.ts';
import type { BellView, TwoTimes, WhyLine } from './models.ts';

/** One thing that a rule would do to a task that it is tried on. */
export interface TrialEntry {
  at: TwoTimes;
  is: 'message' | 'change' | 'unrung';
  /** Who gets it, or what is done. */
  words: string;
  /** Of a message, as it would be received. */
  message: {
    to: string[];
    subject: string;
    text: string;
    html: string;
    important: boolean;
    files: string[];
  } | null;
  why: WhyLine[];
}

/** A rule tried on one task. Nothing was changed. */
export interface TrialView {
  taskId: number;
  task: string;
  /** Why it is not watched; empty when it is. */
  against: string[];
  parts: {
    /** What rings; null for the ring times that come by themselves. */
    asIf: string | null;
    entries: TrialEntry[];
    /** Where nothing comes: what each ring time comes to for this task. */
    notes: string[];
  }[];
}

/** A draft beside the version that is live: what would come besides, no more, or at another moment. */
export interface BesideView {
  added: number;
  gone: number;
  moved: number;
  same: number;
  rows: { how: 'added' | 'gone' | 'moved'; bell: BellView; was: TwoTimes | null }[];
  until: string;
}

/** What is said before a rule is turned on. */
export interface CheckView {
  /** What keeps it from being turned on, each at its part. */
  faults: RuleFault[];
  /** The most messages that leave at one moment within a week, and when; null when none leaves. */
  atOnce: { count: number; at: string } | null;
  /** More than are let pass without asking. */
  rush: boolean;
  /** Messages within a week. */
  week: number;
  people: number;
  /** Rings that lie in the past. */
  past: number;
  next: string[];
  withdraws: { notices: number; runs: number; listed: { task: string; person: string }[] };
}
