import { wholeSentence } from '../core/rule/words/sentence.ts';
import { groupBy } from '../core/group-by.ts';
import { ifComputable } from '../core/if-computable.ts';
import type { RuleFacts } from '../core/forecast/facts/compile-rule.ts';
import type { Facts, TaskFacts } from '../core/forecast/facts/facts.ts';
import { forecast } from '../core/forecast/forecast.ts';
import type { Forecast, ForecastHistory } from '../core/forecast/simulate/model.ts';
import { Planner } from '../core/forecast/plan/planner.ts';
import { silentTasks } from '../core/forecast/plan/silent.ts';
import { lintRule } from '../core/lint/lint.ts';
import type { LiveOther } from '../core/lint/model.ts';
import type { RuleFault } from '../core/rule/rule-fault.ts';
import type { RuleDefinition } from '../core/rule/model.ts';
import { MS_PER_DAY } from '../core/time/day.ts';
import { shortDay, shortMoment } from '../core/time/format.ts';
import { bellView, nameFor, type Reading } from './bell-view.ts';
import { stripOf } from './bells.ts';
import { furtherMarks } from './further-marks.ts';
import type { RuleForecastView } from './models.ts';

/** Bells listed in one answer; the rest are counted. */
const LISTED = 50;
/** People in the strip. */
const MOST_ROWS = 12;
/** Tasks of one reason that are named. */
const NAMED = 8;
/** Tasks for which it cannot be computed that are named. */
const FAULTS_NAMED = 3;
/** Tasks of one reason that are mended at once. */
export const MOST_MENDED = 1_000;
/** Days that the forecast of one rule looks ahead. */
export const RULE_WINDOW_DAYS = 28;

/** What the outlook of a rule is computed from. */
export interface OutlookInput {
  facts: Facts;
  /** As it is written, what is faulty left out. */
  definition: RuleDefinition;
  rule: RuleFacts;
  /** As it is written. */
  written: RuleDefinition;
  faults: RuleFault[];
  tasks: readonly TaskFacts[];
  history: ForecastHistory;
  others: readonly LiveOther[];
  statuses: readonly { id: number; name: string }[];
  reading: Reading;
  days?: number;
}

/** What one rule would do as it is written, alone: on the server for the page, in the browser for every change of it. */
export function ruleForecastView(input: OutlookInput): RuleForecastView {
  const { facts, rule, written, faults, tasks, history, reading, days = RULE_WINDOW_DAYS } = input;
  const { now, zone, names } = reading;
  const until = now + days * MS_PER_DAY;
  const planner = new Planner(facts, history.planner);
  const outlook = forecast(facts, [rule], tasks, { now, from: now, until }, history);
  const told = {
    planner,
    rules: new Map([[rule.id, rule]]),
    tasks: new Map([...tasks, ...outlook.imagined].map((task) => [task.id, task])),
    notices: outlook.notices
  };
  const bells = outlook.notices.first(LISTED).map((notice) => bellView(told, notice, reading));
  const { readers, counts, bySteps } = tally(outlook);
  const rows = [...facts.people.values()].filter(({ id }) => readers.has(id)).slice(0, MOST_ROWS);
  const further = furtherMarks(told, LISTED, new Set(rows.map(({ id }) => id)), reading);
  // What is not whole yet watches nothing that could be counted.
  const isWhole = !faults.some(({ part }) => part === 'watch' || part === 'stop');
  const watched = tasks.filter(
    (task) => isWhole && ifComputable(() => planner.watches(rule, task, now), false)
  );
  return {
    strip: stripOf(rows, bells, now, until, now, zone, further),
    peopleBelow: readers.size - rows.length,
    bells,
    more: outlook.notices.length - bells.length,
    counts,
    outOfEarshot: [...silentTasks(planner, rule, watched)].map(([reason, silent]) => ({
      reason,
      count: silent.length,
      ids: silent.slice(0, MOST_MENDED).map(({ id }) => id),
      tasks: silent.slice(0, NAMED).map((task) => ({ id: task.id, name: nameFor(task, reading) }))
    })),
    lints: lintRule({
      ...input,
      ruleId: rule.id,
      names,
      planner,
      now,
      zone,
      watched,
      notices: outlook.notices
    }),
    faults,
    broken: brokenBy(outlook, told.tasks, reading),
    watched: watched.length,
    acts: outlook.acts.length,
    bySteps,
    stopped: stops(rule)
      ? watched.filter((task) => ifComputable(() => planner.stopped(rule, task, now), false)).length
      : null,
    sentence: wholeSentence(written, names),
    next: nextRings(outlook, reading),
    until: shortDay(zone.dayOf(until), zone.dayOf(now))
  };
}

/** What could not be computed, by what is wrong: mostly it is one thing for many tasks. */
function brokenBy(
  { faults }: Forecast,
  tasks: ReadonlyMap<number, TaskFacts>,
  reading: Reading
): RuleForecastView['broken'] {
  return [...groupBy(faults, ({ code }) => code).values()].map((ones) => {
    const { message } = ones[0]!;
    const named = ones.flatMap(({ taskId }) => tasks.get(taskId) ?? []);
    return {
      message,
      count: named.length,
      tasks: named.slice(0, FAULTS_NAMED).map((task) => ({ id: task.id, name: nameFor(task, reading) }))
    };
  });
}

/** Whether a rule says when it ends for a task. */
function stops({ stop }: RuleFacts): boolean {
  return stop.condition !== null || stop.until !== null || stop.from !== null;
}

/** The next three moments at which something leaves, on the viewer's wall. */
function nextRings({ notices }: Forecast, { zone, now }: Reading): string[] {
  const moments: string[] = [];
  for (const { unrung, leavesAt } of notices) {
    if (unrung !== null) continue;
    const words = shortMoment(leavesAt, zone, zone.dayOf(now));
    if (!moments.includes(words)) moments.push(words);
    if (moments.length === 3) break;
  }
  return moments;
}

/** What stands above the list of a rule's bells, and everybody to whom one of them leaves. */
function tally({ notices, acts, pastRings }: Forecast): {
  readers: Set<number>;
  counts: RuleForecastView['counts'];
  bySteps: RuleForecastView['bySteps'];
} {
  const counts = { bells: 0, people: 0, held: 0, late: 0, unrung: 0, past: pastRings };
  const rung = new Set<number>();
  const told = new Map<string, Set<number>>();
  for (const { readerId, stepId, unrung, leavesAt, ringAt, lateBell } of notices) {
    if (lateBell) counts.late++;
    if (unrung !== null) counts.unrung++;
    else {
      counts.bells++;
      rung.add(readerId);
      const ofStep = told.get(stepId);
      if (ofStep) ofStep.add(readerId);
      else told.set(stepId, new Set([readerId]));
      if (leavesAt !== ringAt) counts.held++;
    }
  }
  const bySteps: RuleForecastView['bySteps'] = {};
  for (const [stepId, people] of told) bySteps[stepId] = { people: people.size, changes: 0 };
  for (const { stepId } of acts) (bySteps[stepId] ??= { people: 0, changes: 0 }).changes++;
  return { readers: rung, counts: { ...counts, people: rung.size }, bySteps };
}
