import type { NoticeList } from '../simulate/notice-list.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';

/** How a notice fares where one version of a rule takes the place of another. */
export interface Moved {
  before: PlannedNotice;
  after: PlannedNotice;
}

/** What of two forecasts of one rule is not in both. Notices are the same by lead, repeat, step, task and recipient. */
export interface Difference {
  added: PlannedNotice[];
  gone: PlannedNotice[];
  /** Leave at another moment, or are read by somebody else. */
  moved: Moved[];
  same: number;
}

export function difference(before: NoticeList, after: NoticeList): Difference {
  const left = byKey(before);
  const result: Difference = { added: [], gone: [], moved: [], same: 0 };
  for (const [key, notice] of byKey(after)) {
    const was = left.get(key);
    left.delete(key);
    if (!was) result.added.push(notice);
    else if (was.leavesAt !== notice.leavesAt || was.readerId !== notice.readerId)
      result.moved.push({ before: was, after: notice });
    else result.same++;
  }
  result.gone.push(...left.values());
  return result;
}

function keyOf({ leadId, ordinal, stepId, taskId, recipientId }: PlannedNotice): string {
  return [leadId, ordinal, stepId, taskId, recipientId].join('/');
}

/** Notices by their keys; what rings several times by one lead, a schedule for one, is counted off in its order. */
function byKey(notices: NoticeList): Map<string, PlannedNotice> {
  const found = new Map<string, PlannedNotice>();
  const times = new Map<string, number>();
  for (const notice of notices) {
    if (notice.unrung !== null) continue;
    const key = keyOf(notice);
    const nth = times.get(key) ?? 0;
    times.set(key, nth + 1);
    found.set(`${key}/${nth}`, notice);
  }
  return found;
}
