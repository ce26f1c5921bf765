import { newlyNamed, type Told } from '../../core/forecast/facts/recipients.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import type { Telling } from '../../core/forecast/plan/telling.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import { isDone } from '../store/tellings.ts';
import { ringKey } from './ring-key.ts';

/**
 * Who is told in somebody's place: where a recipient of a Tell has come to stand for somebody else, what waits for whoever it stood for is told
 * to them, once. What the plan told, the plan tells anew.
 */
export function toldInstead(
  { runs, tellings }: Pick<Stores, 'runs' | 'tellings'>,
  planner: Planner,
  { rule, lead, tell, task }: Omit<Telling, 'recipient' | 'ordinal'>,
  notice: NoticeRecord
): Told[] {
  if (notice.snooze > 0 || rule.past.newRecipient === 'do not ring') return [];
  const actorId = runs.ofRing(notice.ringId)?.actorId ?? null;
  const told = planner.audience.told(rule, tell, task, notice.leadId, actorId);
  const key = ringKey(rule, lead, task, notice.anchorValue, notice.ordinal);
  const rung = tellings.rung({ ...key, stepId: notice.stepId });
  return newlyNamed(notice, told).filter(
    ({ person: { id } }) =>
      !rung.some((one) => one.recipientId === id && isDone(one)) &&
      // What gave it to them has told them, as “assigned” does.
      !tellings.isToldLater(notice, id)
  );
}
