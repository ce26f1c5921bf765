/** A notice as a row of the Outbox. Times are on the viewer's wall. */
export interface OutboxRowView {
  id: number;
  ringAt: string;
  /** When it leaves or left, or in words that it never does, or waits for its task. */
  leavesAt: string;
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
  /** How it is drawn. */
  tone: 'sent' | 'waiting' | 'failed' | 'quiet';
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
