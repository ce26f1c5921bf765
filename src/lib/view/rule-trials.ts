import type { RuleFault } from '../core/rule/rule-fault.ts';
import type { BellView, TwoTimes } from './models.ts';

/** One thing that a rule would do to a task that it is tried on. */
export interface TrialEntry {
  at: TwoTimes;
  is: 'message' | 'change' | 'unrung';
  /** The step of the rule that it is of. */
  stepId: string;
  /** Who gets it, or what is done. */
  words: string;
  /** Of a message, as it would be received. */
  message: {
    /** By what it is asked for when it is to be sent: another text has another. */
    key: string;
    to: string[];
    subject: string;
    text: string;
    html: string;
    important: boolean;
    files: string[];
  } | null;
  why: string[];
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

/** The words of one Tell as somebody would read them about a real task. */
export interface WordsView {
  taskId: number;
  task: string;
  /** Who reads them. */
  reader: string;
  /** When, on their wall. */
  at: TwoTimes;
  /** It does not ring for the task by itself: they are read as if it rang now. */
  asIf: boolean;
  subject: string;
  text: string;
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
  withdraws: { notices: number; listed: { task: string; person: string }[] };
  /** Notices of other rules within a week that are not sent because this one tells the same within the hour before. */
  silences: { rule: string; notices: number }[];
  /** Notices of it that are not sent because another rule tells the same within the hour before. */
  silenced: number;
}

/** What a rule would have done in the past, had it been on. */
export interface HindsightView {
  /** The first day that it looks at. */
  from: string;
  /** The records do not go four weeks back. */
  short: boolean;
  sent: number;
  people: number;
  tasks: number;
  /** Changes that it would have made. */
  changes: number;
  /** Notices of it that were really sent in that time. */
  really: number;
  unrung: { reason: string; count: number }[];
  /** In the order in which they would have left; `unrung` says why one would not. */
  rows: { at: TwoTimes; task: string; taskId: number | null; reader: string; unrung: string | null }[];
}
