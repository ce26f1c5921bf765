import type { NoticeKind } from '../../notice/kinds.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { OwnChange } from '../decide/own-changes.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';

/** Something told about a task that has left. */
export interface ToldBefore {
  leavesAt: InstantMs;
  readerId: number;
  ruleId: number;
  kind: NoticeKind;
  forced: boolean;
}

/** A notice that rang before now and waits to leave. */
export interface WaitingNotice extends PlannedNotice {
  anchorValue: string;
  /** What its run changed itself. */
  own: readonly OwnChange[];
  /** Watch and Stop are not asked again. */
  regardless: boolean;
  /** Who set off its run; null where nobody did. */
  actorId: number | null;
  /** By which recipients of the Tell it came to whoever is told; empty where the plan did. */
  named: readonly string[];
  /** Its recipient had it put off for themselves. */
  snoozed: boolean;
}

/** A run that waits to go on. */
export interface RunAhead {
  /** As it was when the run started. */
  rule: RuleFacts;
  leadId: string;
  taskId: number;
  /** The instruction to go on with. */
  at: number;
  until: InstantMs;
  ringAt: InstantMs;
  ordinal: number;
  anchorValue: string;
  actorId: number | null;
  /** What it changed itself. */
  own: readonly OwnChange[];
  /** Goes on even if Watch no longer matches. */
  regardless: boolean;
  /** Waits for an answer rather than for a time. */
  asking: boolean;
}
