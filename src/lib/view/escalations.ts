import type { TwoTimes } from './models.ts';

/** Which tasks on ladders can be asked for: those whose clock runs, those that stand still, those with nobody above. */
export const ESCALATIONS_ONLY = ['climbing', 'still', 'nobody above'] as const;
export type EscalationsOnly = (typeof ESCALATIONS_ONLY)[number];

/** They as they are chosen. */
export const ONLY_WORDS: Readonly<Record<EscalationsOnly, string>> = {
  climbing: 'running',
  still: 'paused',
  'nobody above': 'nobody to escalate to'
};

/** A task on a ladder, as whoever looks sees it. */
export interface EscalationRow {
  taskId: number;
  task: string;
  project: string | null;
  /** Null without an owner. */
  owner: string | null;
  /** Who hears next above the owner; null where nobody does. */
  escalatesTo: string | null;
  ruleId: number;
  rule: string;
  /** The rung that rang last on the present clock; null before the first. */
  rung: { number: number; at: string } | null;
  /** Rungs of the ladder. */
  rungs: number;
  /** Since when, or how late it is. */
  since: string;
  /** Working time on the clock of the ladder: “9 working hours”. */
  onClock: string;
  /** What the clock started by, where that is not the due moment. */
  startedBy: string | null;
  /** The next ring of the ladder, and whom it tells; null where none is to come. */
  next: { time: TwoTimes; rung: number; again: boolean; who: string[] } | null;
  /** Why the clock stands still, and until when where that is known. */
  still: { why: string; until: string | null } | null;
  /** By whom it was promised, and for when. */
  promised: { who: string; day: string } | null;
  mayAcknowledge: boolean;
}

/** A promise past its deadline that waits for a yes. */
export interface AskedPromise {
  id: number;
  taskId: number;
  task: string;
  who: string;
  promised: string;
  due: string;
  /** Days left or late in words. */
  left: string | null;
  mayAnswer: boolean;
}

export interface EscalationsView {
  rows: EscalationRow[];
  /** Of all pages. */
  total: number;
  page: number;
  pages: number;
  asked: AskedPromise[];
  /** Managers who stand above each other, by name. */
  circles: string[][];
  /** Tasks whose owner has nobody above. */
  nobodyAbove: number;
  /** Rules that are on and have a ladder. */
  rules: { id: number; name: string }[];
}

/** What of the ladders stands on the Bell tower. */
export interface LadderBrief {
  /** Tasks on a ladder. */
  count: number;
  /** Those whose owner has nobody above, the first of them named. */
  nobodyAbove: { count: number; tasks: { id: number; name: string }[] };
  /** Promises that wait for a yes. */
  asked: number;
  circles: string[][];
}

/** What stands of a task's ladders, and what was said of it. */
export interface TaskSaid {
  /** It can be acknowledged now: open work that is due or late. */
  offered: boolean;
  today: string;
  /** What is offered first as a promised date. */
  nextDay: string;
  ladders: EscalationRow[];
  /** While it waits for others: what is kept back, and what rings all the same. */
  stuck: string | null;
  /** The oldest first, each with what became of it. */
  lines: { id: number; words: string; became: string; mayAnswer: boolean }[];
}
