import { CodedError } from '../errors.ts';
import { byInstantThenRank } from './simulate/in-order.ts';
import { isSetOff, leadOf, type RuleFacts } from './facts/compile-rule.ts';
import type { Facts, TaskFacts } from './facts/facts.ts';
import type { Forecast, ForecastHistory, ForecastWindow } from './simulate/model.ts';
import { NoticeList } from './simulate/notice-list.ts';
import { PlainRules } from './simulate/plain-rules.ts';
import { NO_HISTORY, Planner } from './plan/planner.ts';
import type { PlannedNotice } from './plan/planned-notice.ts';
import { Scopes } from './facts/scopes.ts';
import { Simulation } from './simulate/simulation.ts';

/**
 * Every notice of the rules for the tasks in a window, rung or unrung, if nothing changes but by the rules themselves. A window only
 * selects from the forecast: it never changes it.
 */
export function forecast(
  facts: Facts,
  rules: readonly RuleFacts[],
  tasks: readonly TaskFacts[],
  window: ForecastWindow,
  history: ForecastHistory = {}
): Forecast {
  const planner = new Planner(facts, history.planner ?? NO_HISTORY);
  const rings = rules.reduce((sum, { planned }) => sum + planned.length, 0);
  const notices = new NoticeList(tasks.length * rings);
  const result: Forecast = { notices, pastRings: 0, acts: [], imagined: [], faults: [] };
  const said = new Set<string>();
  const onFault = (ruleId: number, taskId: number, error: unknown) => {
    // Each of its rings may fail: one rule and one task are one fault.
    const key = `${ruleId}/${taskId}`;
    if (said.has(key)) return;
    said.add(key);
    const message = error instanceof Error ? error.message : String(error);
    const code = error instanceof CodedError ? error.code : 'unknown';
    result.faults.push({ ruleId, taskId, code, message });
  };
  // The order of rings at one instant: rule order, rule id, due moment, task id, then the lead's place in its rule. Rules and
  // tasks are put in that order once, so that a million notices need not be.
  const ordered = [...rules].sort((a, b) => a.position - b.position || a.id - b.id);
  const asked = { facts, rules: ordered, window, history, onFault };
  const plain = new PlainRules(planner, asked, result.notices);
  const waiting = groupWaiting(history.waiting ?? []);
  const running = new Set((history.runs ?? []).map(({ taskId }) => taskId));
  const lively: TaskFacts[] = [];
  const scopes = new Scopes(ordered);
  const byId = new Map(ordered.map((rule) => [rule.id, rule]));
  for (const task of inOrderOfDue(tasks, planner)) {
    const scope = scopes.of(task);
    const held = waiting.get(task.id) ?? NONE_HELD;
    if (!scope.plain || running.has(task.id) || isAnySetOff(held, byId, task)) {
      lively.push(task);
      continue;
    }
    if (!plain.take(task, scope, held)) lively.push(task);
  }
  result.pastRings = plain.pastRings;
  if (lively.length > 0) new Simulation(asked, lively, result).run();
  result.notices.sort(new Map(ordered.map(({ id }, rank) => [id, rank])));
  return result;
}

const NONE_HELD: ReadonlyMap<number, PlannedNotice[]> = new Map();

/** Whether something waits that rang because something had happened: it is tested as it was rung, and not as what is planned. */
function isAnySetOff(
  held: ReadonlyMap<number, readonly PlannedNotice[]>,
  rules: ReadonlyMap<number, RuleFacts>,
  task: TaskFacts
): boolean {
  for (const [ruleId, notices] of held)
    for (const { leadId } of notices) {
      const lead = leadOf(rules.get(ruleId), task, leadId);
      if (lead && isSetOff(lead)) return true;
    }
  return false;
}

/** Tasks by due moment, those without one last, then by id. */
function inOrderOfDue(tasks: readonly TaskFacts[], planner: Planner): TaskFacts[] {
  const byId = isInOrderOfId(tasks) ? tasks : [...tasks].sort((a, b) => a.id - b.id);
  const dated: TaskFacts[] = [];
  const undated: TaskFacts[] = [];
  const due = new Float64Array(byId.length);
  for (const task of byId) {
    const at = planner.dates.momentOf('due', task);
    if (at === null) undated.push(task);
    else due[dated.push(task) - 1] = at;
  }
  const ordered: TaskFacts[] = [];
  for (const i of byInstantThenRank(due.subarray(0, dated.length), new Int32Array(dated.length), 1))
    ordered.push(dated[i]!);
  for (const task of undated) ordered.push(task);
  return ordered;
}

function isInOrderOfId(tasks: readonly TaskFacts[]): boolean {
  return tasks.every(({ id }, i) => i === 0 || tasks[i - 1]!.id < id);
}

/** Waiting notices by task and rule. */
function groupWaiting(waiting: readonly PlannedNotice[]): Map<number, Map<number, PlannedNotice[]>> {
  const groups = new Map<number, Map<number, PlannedNotice[]>>();
  for (const one of waiting) {
    let ofTask = groups.get(one.taskId);
    if (!ofTask) groups.set(one.taskId, (ofTask = new Map()));
    const ofRule = ofTask.get(one.ruleId);
    if (ofRule) ofRule.push(one);
    else ofTask.set(one.ruleId, [one]);
  }
  return groups;
}
