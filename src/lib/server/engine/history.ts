import type { RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { ForecastHistory } from '../../core/forecast/simulate/model.ts';
import { ALREADY_TOLD_MS } from '../../core/forecast/decide/notice-kind.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import type { RunAhead, WaitingNotice } from '../../core/forecast/simulate/simulated.ts';
import { leadOf } from '../../core/forecast/facts/compile-rule.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { RunRecord } from '../store/runs.ts';
import type { FactsSource } from './facts-source.ts';
import { ringKey } from './ring-key.ts';
import { RungOf } from './rung-of.ts';

/** What has rung is kept for so many tasks at once. */
const MOST_KEPT = 20_000;

const NOTHING_WAITS = { waiting: [], runs: [] };

/** Whose history it is, and of when. */
export interface HistoryOf {
  stores: Stores;
  source: FactsSource;
  planner: Planner;
  /** Workspace clock. */
  now: number;
}

/**
 * What has happened, as a forecast asks for it, with what waits.
 * @param touched tasks for which any of the rules may have rung; null where that is asked task by task
 */
export function forecastHistory(
  { stores, source, planner, now }: HistoryOf,
  { waiting, runs }: { waiting: readonly WaitingNotice[]; runs: readonly RunAhead[] } = NOTHING_WAITS,
  touched: ReadonlySet<number> | null = null
): ForecastHistory {
  const { outbox, tellings } = stores;
  // Nothing is written while a forecast is made. It goes from task to task, or through time and comes to each task again and again.
  const known = new Map<number, RungOf>();
  const rungOf = (id: number): RungOf => {
    let rung = known.get(id);
    if (rung) return rung;
    if (known.size >= MOST_KEPT) known.clear();
    known.set(id, (rung = new RungOf(stores, id)));
    return rung;
  };
  const isUntouched = (id: number) => touched !== null && !touched.has(id);
  return {
    waiting,
    runs,
    planner: source.history,
    sentToday: (personId) => {
      const { zone } = planner.facts.people.get(personId)!;
      const day = zone.dayOf(now);
      return outbox.sentTo(personId, zone.startOfDay(day), zone.endOfDay(day));
    },
    // A lead keeps its key through an edit of its time, so what has left may seem to lie ahead again.
    occupied: (rule, task, { lead, recipientId, ordinal, stepId, anchorValue }) => {
      if (isUntouched(task.id)) return false;
      const key = ringKey(rule, lead, task, anchorValue ?? planner.anchorValue(lead, task), ordinal);
      return rungOf(task.id).occupied(key, stepId, recipientId);
    },
    untouched: (taskId) => (touched ? !touched.has(taskId) : rungOf(taskId).isEmpty),
    left: (rule, lead, task, recipientId, anchorValue) =>
      isUntouched(task.id) ? 0 : rungOf(task.id).left(ringKey(rule, lead, task, anchorValue, 0), recipientId),
    doneOnce: (ruleId, step, task, value) =>
      stores.runs.once(ruleId, step, task.id, task.round, value) !== null,
    openFollowUps: (ruleId, taskId) => stores.runs.openFollowUps(ruleId, taskId),
    toldLately: (taskId) => tellings.since(taskId, now - ALREADY_TOLD_MS),
    leftTo: (ruleId, taskId, recipientId) =>
      isUntouched(taskId) ? 0 : tellings.leftTo(ruleId, taskId, recipientId)
  };
}

/**
 * What has happened by now, as a forecast of some rules asks for it, with what waits of them.
 * @param tasks those that are asked about, where they are known beforehand: what has rung for none of them is then known at once
 */
export function historyOf(
  of: HistoryOf,
  rules: ReadonlyMap<number, RuleFacts>,
  waiting: readonly NoticeRecord[],
  tasks: readonly TaskFacts[] | null = null
): ForecastHistory {
  const { stores, source } = of;
  const held = waiting.map((notice) => {
    const rule = rules.get(notice.ruleId);
    const task = rule?.ofTask ? stores.tasks.factsOf(notice.taskId) : null;
    // A run that only tells has changed nothing and waits for nothing: in a rush there are thousands.
    const run = rule?.program.tellsOnly ? null : stores.runs.ofRing(notice.ringId);
    return waitingNotice(notice, rule, task, run);
  });
  const runs = stores.runs
    .waiting()
    .filter(({ ruleId }) => rules.has(ruleId))
    .flatMap((run) => runAhead(run, source) ?? []);
  // Of one rule it is known at once which tasks it has rung for; of all of them each task is asked.
  const [only] = rules.size === 1 ? rules.keys() : [];
  const touched =
    only !== undefined
      ? stores.notices.tasksOfRule(only)
      : tasks && stores.tellings.tasksRung(tasks.map(({ id }) => id));
  return forecastHistory(of, { waiting: held, runs }, touched);
}

/** A waiting notice as a forecast knows it. */
export function waitingNotice(
  notice: NoticeRecord,
  rule: RuleFacts | undefined,
  task: TaskFacts | null,
  run: RunRecord | null
): WaitingNotice {
  const lead = leadOf(rule, task, notice.leadId);
  return {
    ruleId: notice.ruleId,
    leadId: notice.leadId,
    leadOrder: lead?.order ?? -1,
    ordinal: notice.ordinal,
    stepId: notice.stepId,
    taskId: notice.taskId,
    recipientId: notice.recipientId,
    readerId: notice.readerId,
    ringAt: notice.ringAt,
    // Without an end while its ladder stands still.
    leavesAt: notice.leavesAt ?? NaN,
    originDay: notice.originDay,
    lateBell: notice.lateBell,
    folded: notice.state === 'folded',
    unrung: null,
    noticeId: notice.id,
    ifActs: null,
    anchorValue: notice.anchorValue,
    own: run?.own ?? [],
    regardless: (run?.regardless ?? false) || notice.snooze > 0,
    actorId: run?.actorId ?? null,
    named: notice.named,
    snoozed: notice.snooze > 0
  };
}

/** A run that waits, as a forecast knows it; null when its rule is gone. */
export function runAhead(run: RunRecord, source: FactsSource): RunAhead | null {
  const rule = source.ruleOfVersion(run.ruleId, run.versionId);
  if (!rule || run.nextAt === null || run.taskId === null || !source.live(run.ruleId)) return null;
  return {
    rule,
    leadId: run.leadId,
    taskId: run.taskId,
    at: run.step,
    until: run.nextAt,
    ringAt: run.ringAt,
    ordinal: run.ordinal,
    anchorValue: run.anchorValue,
    actorId: run.actorId,
    own: run.own,
    regardless: run.regardless,
    asking: run.state === 'asking'
  };
}
