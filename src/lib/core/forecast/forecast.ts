import type { InstantMs } from '../time/zone.ts';
import { byInstantThenRank } from './in-order.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { RuleFacts } from './compile-rule.ts';
import type { Facts, TaskFacts } from './facts.ts';
import { NoticeList } from './notice-list.ts';
import { PlainRules } from './plain-rules.ts';
import { NO_HISTORY, Planner, type PlannedNotice, type PlannerHistory } from './planner.ts';
import { Scopes } from './scopes.ts';
import { Simulation } from './simulation.ts';
import type { RunAhead, ToldBefore, WaitingNotice } from './simulated.ts';

export interface ForecastWindow {
  /** Rings at or before now are not made up here: what is owed for them is in `waiting`. */
  now: InstantMs;
  /** Notices that leave in `(from, until]` are given; unrung ones by their ring instant. */
  from: InstantMs;
  until: InstantMs;
}

/** What history adds to the facts. */
export interface ForecastHistory {
  /** Notices whose ring instant has passed and that have not left: held, or made up for. */
  waiting?: readonly WaitingNotice[];
  /** Runs that wait to go on. */
  runs?: readonly RunAhead[];
  /** Messages that have left to a person on their date at `now`. */
  sentToday?: (personId: number) => number;
  /** Whether a ring has left already (after the clock was set back, or a date went away and came back). */
  occupied?: (
    rule: RuleFacts,
    lead: CompiledLead,
    task: TaskFacts,
    recipientId: number,
    ordinal: number,
    stepId: string,
    anchorValue?: string
  ) => boolean;
  /** How many notices of a lead have left for an anchor value to a recipient; runs for nobody. */
  left?: (
    rule: RuleFacts,
    lead: CompiledLead,
    task: TaskFacts,
    recipientId: number,
    anchorValue: string
  ) => number;
  /** What has left about a task in the hour before now. */
  toldLately?: (taskId: number) => readonly ToldBefore[];
  /** Notices of a rule that have left for a task to a recipient in its round. */
  leftTo?: (ruleId: number, taskId: number, recipientId: number) => number;
  /** Whether nothing has rung for a task yet. */
  untouched?: (taskId: number) => boolean;
  planner?: PlannerHistory;
}

export interface Forecast {
  /** In the order in which they leave; unrung ones stand at their ring instant. */
  notices: NoticeList;
  /** Rings of these rules that lie at or before now and so will not come. */
  pastRings: number;
  /** What rules will do besides telling, in their order. */
  acts: ForecastAct[];
  /** Tasks that rules will make. */
  imagined: TaskFacts[];
  /** What could not be computed, by task and rule: a calendar without working time, a date out of range. */
  faults: { ruleId: number; taskId: number; message: string }[];
}

/** Something that a rule will do to a task. */
export interface ForecastAct {
  at: InstantMs;
  ruleId: number;
  taskId: number;
  stepId: string;
  /** What is done, in the words of the act: “set status”. */
  act: string;
}

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
  const onFault = (ruleId: number, taskId: number, error: unknown) =>
    void result.faults.push({
      ruleId,
      taskId,
      message: error instanceof Error ? error.message : String(error)
    });
  // The order of rings at one instant: rule order, rule id, due moment, task id, then the lead's place in its rule. Rules and
  // tasks are put in that order once, so that a million notices need not be.
  const ordered = [...rules].sort((a, b) => a.position - b.position || a.id - b.id);
  const plain = new PlainRules(planner, ordered, window, history, result.notices, onFault);
  const waiting = groupWaiting(history.waiting ?? []);
  const running = new Set((history.runs ?? []).map(({ taskId }) => taskId));
  const lively: TaskFacts[] = [];
  const scopes = new Scopes(ordered);
  for (const task of inOrderOfDue(tasks, planner)) {
    const scope = scopes.of(task);
    if (!scope.plain || running.has(task.id)) {
      lively.push(task);
      continue;
    }
    if (!plain.take(task, scope, waiting.get(task.id) ?? NONE_HELD)) lively.push(task);
  }
  result.pastRings = plain.pastRings;
  if (lively.length > 0) {
    const simulation = new Simulation(facts, ordered, lively, window, history, result, onFault);
    simulation.run();
  }
  result.notices.sort(new Map(ordered.map(({ id }, rank) => [id, rank])));
  return result;
}

const NONE_HELD: ReadonlyMap<number, PlannedNotice[]> = new Map();

/** Tasks by due moment, those without one last, then by id. */
function inOrderOfDue(tasks: readonly TaskFacts[], planner: Planner): TaskFacts[] {
  const byId = isInOrderOfId(tasks) ? tasks : [...tasks].sort((a, b) => a.id - b.id);
  const dated: TaskFacts[] = [];
  const undated: TaskFacts[] = [];
  const due = new Float64Array(byId.length);
  for (const task of byId) {
    const at = planner.momentOf('due', task);
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
