import { compareForMerge } from '../ring/merge.ts';
import { watches } from '../rule/watch.ts';
import type { InstantMs } from '../time/zone.ts';
import type { CompiledLead, Facts, PersonFacts, RuleFacts, TaskFacts } from './facts.ts';
import { Planner, type PlannedNotice } from './planner.ts';

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
  waiting?: readonly PlannedNotice[];
  /** Whether a ring has left already (after the clock was set back, or a date went away and came back). */
  occupied?: (rule: RuleFacts, lead: CompiledLead, task: TaskFacts, recipient: PersonFacts) => boolean;
}

export interface Forecast {
  /** In the order in which they leave; unrung ones stand at their ring instant. */
  notices: PlannedNotice[];
  /** Rings of these rules that lie at or before now and so will not come. */
  pastRings: number;
  /** What could not be computed, by task and rule: a calendar without working time, a date out of range. */
  faults: { ruleId: number; taskId: number; message: string }[];
}

/**
 * Every notice of the rules for the tasks in a window, rung or unrung, if nothing changes. A window only selects from
 * the forecast: it never changes it.
 */
export function forecast(
  facts: Facts,
  rules: readonly RuleFacts[],
  tasks: readonly TaskFacts[],
  window: ForecastWindow,
  history: ForecastHistory = {}
): Forecast {
  const planner = new Planner(facts);
  const result: Forecast = { notices: [], pastRings: 0, faults: [] };
  const run = new ForecastRun(planner, window, history, result);
  const byTask = new Map(tasks.map((task) => [task.id, task]));
  const waiting = groupWaiting(history.waiting ?? []);
  for (const rule of rules) {
    for (const task of tasks) {
      if (!watches(rule.watch, task)) continue;
      const recipient = planner.recipient(rule, task);
      const held = waiting.get(`${rule.id}/${task.id}`) ?? [];
      if (!recipient && held.length === 0) continue;
      run.plan(rule, task, recipient, held);
    }
  }
  result.notices = inRingingOrder(result.notices, rules, byTask, planner);
  return result;
}

/** The order of rings at one instant: rule order, rule id, due moment, task id, then the lead's place in its rule. */
function inRingingOrder(
  notices: readonly PlannedNotice[],
  rules: readonly RuleFacts[],
  tasks: ReadonlyMap<number, TaskFacts>,
  planner: Planner
): PlannedNotice[] {
  const rank = new Map(
    [...rules].sort((a, b) => a.position - b.position || a.id - b.id).map(({ id }, index) => [id, index])
  );
  // Most notices share their instant with many others: sorting instants, then each instant's few, is what keeps ten
  // times the work near ten times the time.
  const byInstant = new Map<InstantMs, Keyed[]>();
  for (const notice of notices) {
    const at = shownAt(notice);
    const due = planner.momentOf('due', tasks.get(notice.taskId)!) ?? Infinity;
    const keyed = { notice, rank: rank.get(notice.ruleId)!, due };
    const group = byInstant.get(at);
    if (group) group.push(keyed);
    else byInstant.set(at, [keyed]);
  }
  const instants = Float64Array.from(byInstant.keys()).sort();
  const ordered: PlannedNotice[] = [];
  for (const at of instants) {
    for (const { notice } of byInstant.get(at)!.sort(compareAtOneInstant)) ordered.push(notice);
  }
  return ordered;
}

interface Keyed {
  notice: PlannedNotice;
  rank: number;
  due: InstantMs;
}

function compareAtOneInstant(a: Keyed, b: Keyed): number {
  return (
    a.rank - b.rank ||
    compareInstants(a.due, b.due) ||
    a.notice.taskId - b.notice.taskId ||
    a.notice.leadOrder - b.notice.leadOrder
  );
}

/** One forecast being made: the rings of one rule and task at a time. */
class ForecastRun {
  readonly #planner: Planner;
  readonly #window: ForecastWindow;
  readonly #history: ForecastHistory;
  readonly #result: Forecast;

  constructor(planner: Planner, window: ForecastWindow, history: ForecastHistory, result: Forecast) {
    this.#planner = planner;
    this.#window = window;
    this.#history = history;
    this.#result = result;
  }

  /** @param held notices of this rule and task whose ring instant has passed and that have not left */
  plan(
    rule: RuleFacts,
    task: TaskFacts,
    recipient: PersonFacts | null,
    held: readonly PlannedNotice[]
  ): void {
    const { from, until } = this.#window;
    let found: PlannedNotice[] | null = held.length > 0 ? held.map((notice) => ({ ...notice })) : null;
    if (recipient) found = this.#collect(rule, task, recipient, held, found, -Infinity, until);
    if (!found) return;
    // Which rings are merged is decided among all rings of the task: one after the window may leave together with one that
    // is held past the window, which is then unrung inside it. So the window is applied last.
    const last = found.reduce((most, { leavesAt }) => (leavesAt > most ? leavesAt : most), until);
    if (last > until && recipient) this.#collect(rule, task, recipient, held, found, until, last);
    if (found.length > 1) mergeSameMoment(found);
    for (const one of found) {
      const at = shownAt(one);
      if (at > from && at <= until) this.#result.notices.push(one);
    }
  }

  /** Adds the notices whose ring instant lies in `(after, until]`; a ring leaves at its ring instant or later. */
  #collect(
    rule: RuleFacts,
    task: TaskFacts,
    recipient: PersonFacts,
    held: readonly PlannedNotice[],
    found: PlannedNotice[] | null,
    after: InstantMs,
    until: InstantMs
  ): PlannedNotice[] | null {
    for (const lead of rule.leads) {
      try {
        const { instant, originDay } = this.#planner.ring(lead, task, recipient);
        if (!(instant > after && instant <= until)) continue;
        if (instant <= this.#window.now) {
          if (!held.some((notice) => notice.leadId === lead.lead.id)) this.#result.pastRings++;
        } else if (!this.#history.occupied?.(rule, lead, task, recipient)) {
          (found ??= []).push(notice(this.#planner, rule, lead, task, recipient, instant, originDay));
        }
      } catch (error) {
        // Said once, though the rings after the window may be asked for too.
        if (after === -Infinity)
          this.#result.faults.push({ ruleId: rule.id, taskId: task.id, message: (error as Error).message });
      }
    }
    return found;
  }
}

function notice(
  planner: Planner,
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts,
  recipient: PersonFacts,
  ringAt: InstantMs,
  originDay: number
): PlannedNotice {
  const leavesAt = planner.leaves(rule, recipient, ringAt);
  const unreachable = Number.isNaN(leavesAt) || recipient.email === null;
  return {
    ruleId: rule.id,
    leadId: lead.lead.id,
    leadOrder: lead.order,
    taskId: task.id,
    recipientId: recipient.id,
    ringAt,
    leavesAt,
    originDay,
    lateBell: !unreachable && planner.isLate(lead, task, leavesAt),
    unrung: unreachable ? 'never reachable' : null,
    noticeId: null
  };
}

/** Step 7 over the rings of one rule and task: of those for one recipient that end at the same instant one is sent. */
export function mergeSameMoment(notices: readonly PlannedNotice[]): void {
  for (const one of notices) {
    if (one.unrung !== null) continue;
    const beaten = notices.some(
      (other) =>
        other !== one &&
        other.unrung === null &&
        other.recipientId === one.recipientId &&
        other.leavesAt === one.leavesAt &&
        compareForMerge(other, one) > 0
    );
    if (beaten) one.unrung = 'same moment';
  }
}

/** Where a notice stands in time: when it leaves, or, unrung, when it would have rung. */
export function shownAt(notice: PlannedNotice): InstantMs {
  return notice.unrung === null ? notice.leavesAt : notice.ringAt;
}

function compareInstants(a: InstantMs, b: InstantMs): number {
  return a === b ? 0 : a < b ? -1 : 1;
}

function groupWaiting(waiting: readonly PlannedNotice[]): Map<string, PlannedNotice[]> {
  const groups = new Map<string, PlannedNotice[]>();
  for (const one of waiting) {
    const key = `${one.ruleId}/${one.taskId}`;
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return groups;
}
