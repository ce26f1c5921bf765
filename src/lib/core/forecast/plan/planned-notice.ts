import type { Day } from '../../time/day.ts';
import type { InstantMs } from '../../time/zone.ts';

/** A notice as it will be: what rings, for whom, when, and when it leaves. */
export interface PlannedNotice {
  ruleId: number;
  leadId: string;
  leadOrder: number;
  /** Which repeat of the lead. */
  ordinal: number;
  /** Id of the Tell. */
  stepId: string;
  taskId: number;
  recipientId: number;
  /** Who reads it in the end. */
  readerId: number;
  /** Steps 1 to 4. */
  ringAt: InstantMs;
  /** Steps 5 to 9; NaN when it never leaves. */
  leavesAt: InstantMs;
  /** The date before the closed-day rule. */
  originDay: Day;
  lateBell: boolean;
  /** Above the day's most messages: it leaves together with others. */
  folded: boolean;
  /** Why it will not be sent; null when it will. */
  unrung: UnrungReason | null;
  /** The record that holds it, when its ring instant has passed already. */
  noticeId: number | null;
  /** The rule that must act first for this to come; null when nothing of it hangs on an act. */
  ifActs: number | null;
}

export type UnrungReason =
  | 'already told'
  | 'same moment'
  | 'never reachable'
  | 'overtaken'
  | 'too late'
  | 'no longer true'
  | 'hushed'
  | 'limit reached'
  /** A level of a ladder before the date, while the ladder stands still. */
  | 'acknowledged'
  | 'stuck on others'
  /** Its rule could not be computed for the task when it was to leave. */
  | 'faulty';
