import type { NoticeKind } from '../../notice/kinds.ts';
import type { InstantMs } from '../../time/zone.ts';
import { ALREADY_TOLD_MS } from './notice-kind.ts';

/** A notice about one task as it comes to leave. */
export interface Departing {
  leavesAt: InstantMs;
  readerId: number;
  ruleId: number;
  kind: NoticeKind;
  /** Urgent or a must: never swallowed, and swallows nothing. */
  forced: boolean;
}

/**
 * Whether what leaves says what another rule's notice about the same task has said to the same reader within the hour before.
 * What leaves in the same minute is no repeat: it joins the other's message.
 */
export function isAlreadyTold(notice: Departing, left: Departing): boolean {
  return (
    left.readerId === notice.readerId &&
    left.ruleId !== notice.ruleId &&
    left.kind === notice.kind &&
    !left.forced &&
    !notice.forced &&
    left.leavesAt < notice.leavesAt &&
    notice.leavesAt - left.leavesAt <= ALREADY_TOLD_MS
  );
}

/** Whether a notice about the same task joins another's message: the same reader, kind and instant, by another rule. */
export function joins(notice: Departing, first: Departing): boolean {
  return (
    first.readerId === notice.readerId &&
    first.ruleId !== notice.ruleId &&
    first.kind === notice.kind &&
    !first.forced &&
    !notice.forced &&
    first.leavesAt === notice.leavesAt
  );
}
