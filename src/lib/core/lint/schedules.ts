import { many } from '../many.ts';
import { isOnOwnClocks } from '../forecast/plan/schedule-value.ts';
import type { LeadClock } from '../forecast/plan/lead-clock.ts';
import { inScope } from '../rule/watch.ts';
import type { InstantMs } from '../time/zone.ts';
import { testsOf, type Test } from '../rule/condition.ts';
import { shortDay } from '../time/format.ts';
import { MS_PER_DAY, type Day } from '../time/day.ts';
import type { CompiledLead } from '../forecast/facts/compile-lead.ts';
import type { Lint, LintContext } from './model.ts';

/** Days over which the checks of a schedule are looked at. */
export const LOOKED_DAYS = 62;

/** The test of a date within a window of days from the day of the check, where a condition has exactly one. */
export function windowTest({
  definition
}: Pick<LintContext, 'definition'>): (Test & { value: number }) | null {
  const found = testsOf(definition.watch.condition).filter(
    ({ op, field }) => op === 'within the next days' && (field === 'due' || field === 'start')
  );
  const [only] = found;
  return found.length === 1 && typeof only!.value === 'number' ? (only as Test & { value: number }) : null;
}

/** The days on which a schedule looks for tasks on a clock, from now on. */
export function checkDays(clock: LeadClock, now: InstantMs): Day[] {
  const days = new Set<Day>();
  const until = now + LOOKED_DAYS * MS_PER_DAY;
  for (let ring = clock.nextAfter(now); ring && ring.at <= until; ring = clock.nextAfter(ring.at))
    days.add(clock.zone.dayOf(ring.at));
  return [...days];
}

/** The clocks on which a schedule rings for the tasks that a rule looks at; the workspace's where there are none. */
export function clocksOf({ planner, rule, tasks }: LintContext, lead: CompiledLead): LeadClock[] {
  if (!isOnOwnClocks(lead)) return [planner.clocks.forAll(lead)];
  const looked = tasks.filter((task) => inScope(rule.watch, task));
  const clocks = new Set(looked.map((task) => planner.clocks.of(lead, task, null)));
  return clocks.size > 0 ? [...clocks] : [planner.clocks.forAll(lead)];
}

/** A schedule that looks more rarely than its window is wide misses what is due in between. */
export function checkRarerThanWindow(context: LintContext): Lint[] {
  const window = windowTest(context);
  if (!window) return [];
  return context.rule.leads.flatMap((lead) => {
    if (!lead.schedule) return [];
    const missed: Day[] = [];
    let widest = 0;
    // Where it rings on many clocks, the one that looks least.
    const days = clocksOf(context, lead)
      .map((clock) => checkDays(clock, context.now))
      .reduce((least, one) => (one.length < least.length ? one : least));
    for (let i = 0; i + 1 < days.length; i++) {
      const [day, next] = [days[i]!, days[i + 1]!];
      widest = Math.max(widest, next - day);
      for (let due = day + window.value + 1; due < next; due++) missed.push(due);
    }
    if (missed.length === 0) return [];
    const until = missed.findIndex((day, i) => i > 0 && day !== missed[i - 1]! + 1);
    const run = until < 0 ? missed : missed.slice(0, until);
    const first = shortDay(run[0]!);
    const span = run.length === 1 ? first : `${first} to ${shortDay(run[run.length - 1]!)}`;
    return [
      {
        code: 'check rarer than its window',
        part: 'ring',
        message: `It looks for tasks ${window.field} in the next ${window.value} days, but there are up to ${widest} days between two looks. Tasks ${window.field} on ${span} are missed.`,
        mend: {
          does: 'widen',
          words: `look ${widest - 1} days ahead`,
          from: window.value,
          to: widest - 1
        }
      }
    ];
  });
}

/** A schedule whose window is wider than the time between its checks finds a task again and again for one date. */
export function findsAgain({ rule, notices }: LintContext): Lint[] {
  return rule.leads.flatMap((lead) => {
    if (lead.lead.kind !== 'schedule' || lead.lead.oncePerDate) return [];
    const times = new Map<string, number>();
    for (const { leadId, taskId, recipientId, stepId, unrung } of notices) {
      if (leadId !== lead.lead.id || unrung !== null) continue;
      const key = `${taskId}/${recipientId}/${stepId}`;
      times.set(key, (times.get(key) ?? 0) + 1);
    }
    const again = [...times].filter(([, count]) => count > 1);
    if (again.length === 0) return [];
    const tasks = new Set(again.map(([key]) => key.split('/')[0])).size;
    const most = Math.max(...again.map(([, count]) => count));
    return [
      {
        code: 'finds the same task again',
        part: 'ring',
        message: `In four weeks it repeats for ${many(tasks, 'task')}, up to ${many(most, 'time')} for the same date.`,
        mend: { does: 'once per date', words: 'ring once per task and date', lead: lead.lead.id }
      }
    ];
  });
}
