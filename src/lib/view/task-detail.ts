import type { BellTicks, FurtherBells } from './bell-series.ts';
import type { TaskSaid } from './escalations.ts';
import type { BellView } from './models.ts';
import type { TaskFormView, TaskRowView } from './tasks.ts';

/** Whether a rule rings for a task, and why or why not. */
export interface RuleReasonView {
  id: number;
  name: string;
  applies: boolean;
  /** Why it cannot be computed for the task; absent where it can. */
  broken?: string;
  reasons: string[];
}

/** One line of a task's record: who changed what, and when. */
export interface RecordLineView {
  at: string;
  by: string;
  /** By which way it came, where that is not a person's own hand. */
  source: string | null;
  changes: { field: string; before: string; after: string }[];
  title: string;
}

/** A bell that has rung, and what became of it: `held` waits until the task goes on. */
export interface PastBell {
  bell: BellView;
  became: 'sent' | 'not sent' | 'held';
}

/** Every bell of a task. */
export interface WholeTaskBells {
  coming: BellView[];
  past: PastBell[];
}

/** The bells of a task as its page lists them at once. */
export interface TaskBells extends WholeTaskBells {
  /** What follows in the same way as what is listed. */
  further: FurtherBells[];
  /** How many of the past are not listed. */
  earlier: { sent: number; silent: number };
  /** What is not listed, on its line. */
  ticks: BellTicks[];
  /** How many of what is not listed lie beyond the line. */
  beyond: number;
}

/** A task as it opens. */
export interface TaskDetailView extends TaskBells {
  id: number;
  editable: boolean;
  mayRestore: boolean;
  row: TaskRowView;
  values: TaskFormView;
  created: string;
  /** Who parked it, and when it comes back to whom. */
  parked: string | null;
  creator: string;
  finished: string | null;
  originalDue: string | null;
  slips: { at: string; by: string; from: string; to: string }[];
  nowMs: number;
  dueMs: number | null;
  dueMoment: string | null;
  dueWhy: string[];
  rules: RuleReasonView[];
  reminders: { id: number; whose: string; words: string; mine: boolean }[];
  parent: { id: number; name: string } | null;
  subtasks: TaskRowView[];
  comments: { id: number; by: string; at: string; text: string; mine: boolean }[];
  times: { id: number; by: string; at: string; minutes: number; note: string }[];
  links: { id: number; kind: 'task' | 'project'; to: number; name: string }[];
  contactIds: number[];
  contacts: { id: number; name: string }[];
  deadlines: { field: string; words: string; overdue: boolean; met: boolean }[];
  nextRound: string | null;
  rounds: { round: number; due: string | null; finished: string | null; skipped: string[] }[];
  record: RecordLineView[];
  quiet: QuietView;
  said: TaskSaid;
}

/** What is asked about a task, what can be rung for it by hand, what waits, and what keeps it quiet. */
export interface QuietView {
  hushes: { id: number; of: string; until: string; by: string; note: string; mayEnd: boolean }[];
  /** Notices and runs that a hush would withdraw. */
  waiting: number;
  /** The viewer wants no reminder of it. */
  unwanted: boolean;
  tomorrow: string;
  questions: { id: number; text: string; asked: string; by: string; otherwise: string; mine: boolean }[];
  buttons: { ruleId: number; caption: string }[];
  runs: { id: number; rule: string; until: string; asking: boolean }[];
  /** Notices that the viewer got and can put off, the newest last. */
  snoozable: { id: number; rule: string; at: string; snooze: number }[];
}

/** A field that somebody else changed while one was editing: theirs stays, and one can take one's own after all. */
export interface LostFieldView {
  label: string;
  by: string;
  yours: string;
  theirs: string;
  /** One's own, as the form holds them. */
  values: Partial<TaskFormView>;
}
