/** How a notice ended, or what it waits for: each has a shape of its own. */
export type EndMark =
  'waiting' | 'kept' | 'sending' | 'sent' | 'answered' | 'in doubt' | 'failed' | 'not sent' | 'withdrawn';

/** A notice as a row of the Outbox. Times are on the viewer's wall. */
export interface OutboxRowView {
  id: number;
  /** When it leaves, left, or ended without leaving; in words where it waits for its task. */
  at: string;
  /** When it rang, where that is another time. */
  rangAt: string | null;
  kind: string;
  task: string;
  taskId: number | null;
  rule: string;
  ruleId: number;
  runId: number | null;
  /** Whom it was meant for, and who reads it where that is somebody else. */
  recipient: string;
  reader: string | null;
  channels: string;
  end: string;
  /** Why it ended so, or what the other side said. */
  why: string;
  /** The shape of its end. */
  mark: EndMark;
  /** Why it rang and what moved it since, a sentence each; empty where the viewer may not know. */
  steps: string[];
  /** What was answered to its message, as it came: plain text. */
  replies: { from: string; at: string; automatic: boolean; text: string }[];
}

/** An entry of the journal. */
export interface JournalRowView {
  id: number;
  at: string;
  what: string;
  /** A person, a rule, or what does it by itself. */
  by: string;
  ruleId: number | null;
  runId: number | null;
  /** By which way. */
  way: string;
  /** The change that it tells of; null where it tells of none. */
  changeId: number | null;
  undone: boolean;
}

/** A test message that somebody sent themselves. */
export interface TestMessageView {
  id: number;
  at: string;
  to: string;
  channel: string;
  end: 'taken' | 'waiting' | 'failed';
  /** The other side's last answer; null where it took it at once. */
  why: string | null;
}
