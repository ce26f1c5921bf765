import { many } from '../many.ts';
import type { Unit } from '../ring/lead.ts';
import type { Lint, LintContext } from './model.ts';

/** At least so many days lie in one of these. */
const DAYS: Partial<Record<Unit, number>> = { day: 1, workday: 1, week: 7, month: 28 };

/** A lead that reaches back further than a task's rhythm lies before the task comes back at all. */
export function leadLongerThanRhythm({ rule, watched, planner }: LintContext): Lint[] {
  const longest = Math.max(
    0,
    ...rule.planned.map(({ timing: { n, unit }, anchor }) =>
      anchor === 'due' && n < 0 ? -n * (DAYS[unit] ?? 0) : 0
    )
  );
  if (longest === 0) return [];
  let count = 0;
  let shortest = Infinity;
  for (const task of watched) {
    const days = planner.facts.detailsOf(task.id).rhythmDays;
    if (days === null || days >= longest) continue;
    count++;
    shortest = Math.min(shortest, days);
  }
  if (count === 0) return [];
  const every = shortest === 1 ? 'every day' : `every ${many(shortest, 'day')}`;
  return [
    {
      code: 'lead longer than the rhythm',
      part: 'ring',
      message: `It rings ${many(longest, 'day')} ahead, but ${many(count, 'recurring task repeats', 'recurring tasks repeat')} faster (${every}). That ring is never sent.`,
      mend: null
    }
  ];
}
