import { many } from '../many.ts';
import { longMoment } from '../time/format.ts';
import type { InstantMs } from '../time/zone.ts';
import type { Lint, LintContext } from './model.ts';

/** More messages than this at one instant are a rush. */
export const RUSH = 25;

/** Messages of the rule by the instant at which they leave: those of one Tell to one person are one, unless it tells task by task. */
export function messagesAtOnce({
  notices,
  rule
}: Pick<LintContext, 'notices' | 'rule'>): Map<InstantMs, number> {
  const seen = new Set<string>();
  const counts = new Map<InstantMs, number>();
  for (const { leavesAt, readerId, stepId, taskId, unrung } of notices) {
    if (unrung !== null) continue;
    const gather = rule.program.tells.get(stepId)?.step.gather;
    const apart =
      gather === 'per task' ? `${readerId}/${taskId}` : gather === 'together' ? '' : String(readerId);
    const key = `${leavesAt}/${stepId}/${apart}`;
    if (seen.has(key)) continue;
    seen.add(key);
    counts.set(leavesAt, (counts.get(leavesAt) ?? 0) + 1);
  }
  return counts;
}

/** An instant at which it would send very many messages. */
export function rush(context: LintContext): Lint[] {
  const counts = [...messagesAtOnce(context)].filter(([, count]) => count > RUSH);
  const [worst] = counts.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  if (!worst) return [];
  const [at, count] = worst;
  const times =
    counts.length === 1 ? '' : `, and more than ${RUSH} at ${many(counts.length - 1, 'other time')}`;
  const perTask = [...context.rule.program.tells.values()].find(({ step }) => step.gather === 'per task');
  return [
    {
      code: 'rush',
      part: 'tell',
      ...(perTask ? { step: perTask.step.id } : {}),
      message: `${many(count, 'message')} would be sent at once on ${longMoment(at, context.zone)}${times}.`,
      mend: perTask ? { does: 'gather', words: 'send one message per person', step: perTask.step.id } : null
    }
  ];
}
