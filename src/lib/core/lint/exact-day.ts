import { many } from '../many.ts';
import { partsOf, type Condition, type Test, isTest } from '../rule/condition.ts';
import type { CompiledLead } from '../forecast/facts/compile-lead.ts';
import type { LeadClock } from '../forecast/plan/lead-clock.ts';
import type { TaskFacts } from '../forecast/facts/facts.ts';
import { testWords } from '../rule/words/condition-words.ts';
import { ONCE_DATES, type OnceFor } from '../rule/lead-model.ts';
import { inScope } from '../rule/watch.ts';
import { formatDay, type Day } from '../time/day.ts';
import { shortDay } from '../time/format.ts';
import { isOnOwnClocks } from '../forecast/plan/schedule-value.ts';
import type { Lint, LintContext, Mend } from './model.ts';
import { LOOKED_DAYS, checkDays, clocksOf } from './schedules.ts';

/** The days from tomorrow on that are looked at to their end. */
const WHOLE_DAYS = LOOKED_DAYS - 1;
/** Numbers that go up by one each day: a test for one of them holds on one day alone. */
const COUNTS_DAYS: readonly unknown[] = ['days overdue', 'days since created'];

/** The tests of a Watch that hold for a task on one day alone, where all of its tests must hold. */
export function exactDayTests(condition: Condition | null): Test[] {
  if (!condition) return [];
  const joined = partsOf(condition);
  const tests = joined ? (joined.how === 'all' ? joined.parts : []) : [condition];
  return tests
    .filter(isTest)
    .filter(
      ({ op, value, field }) =>
        (op === 'on' && value === 'today') || (op === 'equals' && COUNTS_DAYS.includes(field))
    );
}

/** The date of a task that a test is of, as a schedule can ring once for it; null for one that no schedule knows. */
export function onceForOf({ field }: Pick<Test, 'field'>): OnceFor | null {
  if (typeof field === 'object')
    return { date: 'own date', field: { id: field.own, end: field.end ?? 'from' } };
  const date = ONCE_DATES.find((one) => one === field);
  return date ? { date } : null;
}

/** A schedule that does not look every day, with a test that holds on one day alone: what falls on the days between is told never. */
export function exactDay(context: LintContext): Lint[] {
  const [test] = exactDayTests(context.definition.watch.condition);
  if (!test) return [];
  return context.rule.leads.flatMap((lead) => {
    if (!lead.schedule) return [];
    const lost = lostDays(context, lead);
    if (lost.length === 0) return [];
    const count = tasksOn(context, lead, test);
    const tasks =
      count === 0 ? '' : ` ${many(count, 'task has such a day', 'tasks have such a day')} in that time.`;
    return [
      {
        code: 'exact day on a schedule with gaps',
        part: 'ring',
        message: `The rule does not ring on ${lost.length} of the next ${WHOLE_DAYS} days, first on ${shortDay(lost[0]!)}. Tasks for which “${testWords(test, context.names)}” is true only on such a day are missed.${tasks}`,
        mend: mendOf(context, lead, test)
      }
    ];
  });
}

/** The days without a look, where it rings on many clocks those of the one that looks least. */
function lostDays(context: LintContext, lead: CompiledLead): Day[] {
  const lost = clocksOf(context, lead).map((clock) => lostOn(clock, context));
  return lost.reduce((most, one) => (one.length > most.length ? one : most));
}

function lostOn(clock: LeadClock, { now }: LintContext): Day[] {
  const looks = new Set(checkDays(clock, now));
  const first = clock.zone.dayOf(now) + 1;
  const lost: Day[] = [];
  for (let day = first; day < first + WHOLE_DAYS; day++) if (!looks.has(day)) lost.push(day);
  return lost;
}

/** How many of the tasks that the rule looks at have the date of a test on a day without a look. */
function tasksOn(context: LintContext, lead: CompiledLead, test: Test): number {
  const onceFor = onceForOf(test);
  if (!onceFor || lead.lead.kind !== 'schedule') return 0;
  const { planner, rule, tasks } = context;
  const of = { ...lead, lead: { ...lead.lead, onceFor } };
  const lost = new Map<LeadClock, ReadonlySet<Day>>();
  const lostFor = (task: TaskFacts) => {
    const clock = isOnOwnClocks(lead) ? planner.clocks.of(lead, task, null) : planner.clocks.forAll(lead);
    if (!lost.has(clock)) lost.set(clock, new Set(lostOn(clock, context)));
    return lost.get(clock)!;
  };
  return tasks.filter((task) => {
    if (!inScope(rule.watch, task)) return false;
    const date = planner.anchors.dateOfOnce(of, task);
    return date !== null && lostFor(task).has(date.day);
  }).length;
}

function mendOf({ now, zone }: LintContext, { lead }: CompiledLead, test: Test): Mend | null {
  if (test.op === 'equals')
    return {
      ...{ does: 'from that day', words: 'ring from that day on, once per due date' },
      ...{ lead: lead.id, field: test.field }
    };
  if (!onceForOf(test)) return null;
  return {
    ...{ does: 'up to today', words: 'ring on the next day for dates that have passed' },
    ...{ lead: lead.id, field: test.field, since: formatDay(zone.dayOf(now)) }
  };
}
