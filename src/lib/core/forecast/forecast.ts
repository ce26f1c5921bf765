import { capAndFold } from '../ring/cap.ts';
import { compareForMerge } from '../ring/merge.ts';
import { watches } from '../rule/watch.ts';
import type { InstantMs } from '../time/zone.ts';
import {
  isReachable,
  leadOf,
  leadsFor,
  type CompiledLead,
  type Facts,
  type PersonFacts,
  type RuleFacts,
  type TaskFacts
} from './facts.ts';
import { limitsOf, outgoingOf } from './day-limits.ts';
import { NoticeList } from './notice-list.ts';
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
  /** Messages that have left to a person on their date at `now`. */
  sentToday?: (personId: number) => number;
  occupied?: (rule: RuleFacts, lead: CompiledLead, task: TaskFacts, recipient: PersonFacts) => boolean;
}

export interface Forecast {
  /** In the order in which they leave; unrung ones stand at their ring instant. */
  notices: NoticeList;
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
  const result: Forecast = { notices: new NoticeList(), pastRings: 0, faults: [] };
  const run = new ForecastRun(planner, window, history, result);
  const waiting = groupWaiting(history.waiting ?? []);
  // The order of rings at one instant: rule order, rule id, due moment, task id, then the lead's place in its rule. Rules and
  // tasks are put in that order once, so that a million notices need not be.
  const ordered = [...rules].sort((a, b) => a.position - b.position || a.id - b.id);
  for (const task of inOrderOfDue(tasks, planner)) {
    for (const rule of ordered) {
      if (!watches(rule.watch, task)) continue;
      const recipients = planner.recipients(rule, task);
      const held = waiting.size === 0 ? NONE : (waiting.get(rule.id)?.get(task.id) ?? NONE);
      if (recipients.length > 1) run.planEach(rule, task, [...recipients], held);
      else if (recipients.length === 1 || held.length > 0) run.plan(rule, task, recipients[0] ?? null, held);
    }
  }
  const [ruleById, taskById] = [new Map(rules.map((rule) => [rule.id, rule])), lazily(tasks)];
  run.capAll((id) => ruleById.get(id), taskById);
  result.notices.sort(new Map(ordered.map(({ id }, rank) => [id, rank])));
  return result;
}

/** Tasks by id, put into a map only when one is asked for. */
function lazily(tasks: readonly TaskFacts[]): (id: number) => TaskFacts | undefined {
  let byId: Map<number, TaskFacts> | null = null;
  return (id) => (byId ??= new Map(tasks.map((task) => [task.id, task]))).get(id);
}

const NONE: readonly PlannedNotice[] = [];

/** Tasks by due moment, those without one last, then by id. */
function inOrderOfDue(tasks: readonly TaskFacts[], planner: Planner): TaskFacts[] {
  return tasks
    .map((task) => ({ task, due: planner.momentOf('due', task) ?? Infinity }))
    .sort((a, b) => (a.due === b.due ? a.task.id - b.task.id : a.due < b.due ? -1 : 1))
    .map(({ task }) => task);
}

/** One forecast being made: the rings of one rule and task at a time. */
class ForecastRun {
  readonly #planner: Planner;
  readonly #window: ForecastWindow;
  readonly #history: ForecastHistory;
  readonly #result: Forecast;
  readonly #scratch = blank();
  /** Whether anybody has a most of messages a day: mostly nobody has, and then nobody is looked up. */
  readonly #anyCap: boolean;
  readonly #capped = new Map<PersonFacts, PlannedNotice[]>();
  /** When messages leave that gather what was put off before now, by reader. */
  readonly #folded = new Map<number, Set<InstantMs>>();

  constructor(planner: Planner, window: ForecastWindow, history: ForecastHistory, result: Forecast) {
    this.#planner = planner;
    this.#anyCap = [...planner.facts.people.values()].some(({ dailyCap }) => dailyCap !== null);
    this.#window = window;
    this.#history = history;
    this.#result = result;
  }

  /** A task with several to be told: rings of one do not merge with rings of another. */
  planEach(
    rule: RuleFacts,
    task: TaskFacts,
    recipients: readonly PersonFacts[],
    held: readonly PlannedNotice[]
  ): void {
    const ids = recipients.map(({ id }) => id);
    for (const recipient of recipients)
      this.plan(
        rule,
        task,
        recipient,
        held.filter(({ recipientId }) => recipientId === recipient.id)
      );
    const others = held.filter(({ recipientId }) => !ids.includes(recipientId));
    if (others.length > 0) this.plan(rule, task, null, others);
  }

  /**
   * @param held notices of this rule and task whose ring instant has passed and that have not left
   */
  plan(
    rule: RuleFacts,
    task: TaskFacts,
    recipient: PersonFacts | null,
    held: readonly PlannedNotice[]
  ): void {
    const leads = recipient ? leadsFor(rule, task, recipient.id) : rule.leads;
    if (recipient && held.length === 0 && leads.length === 1)
      return this.#planOnly(rule, leads[0]!, task, recipient);
    const { until } = this.#window;
    let found: PlannedNotice[] | null = held.length > 0 ? held.map((notice) => ({ ...notice })) : null;
    if (recipient) found = this.#collect(rule, task, recipient, held, found, -Infinity, until);
    if (!found) return;
    // Which rings are merged is decided among all rings of the task: one after the window may leave together with one that
    // is held past the window, which is then unrung inside it. So the window is applied last.
    let last = until;
    for (const { leavesAt } of found) if (leavesAt > last) last = leavesAt;
    if (last > until && recipient) this.#collect(rule, task, recipient, held, found, until, last);
    if (found.length > 1) {
      mergeSameMoment(found);
      found.sort((a, b) => a.leadOrder - b.leadOrder);
    }
    for (const one of found) this.#take(one);
  }

  /** The one lead of a rule, which meets no other: nothing is merged, so nothing need be collected. */
  #planOnly(rule: RuleFacts, lead: CompiledLead, task: TaskFacts, recipient: PersonFacts): void {
    const { now, until } = this.#window;
    try {
      const { instant, originDay } = this.#planner.ring(lead, task, recipient);
      if (!(instant <= until)) return;
      if (instant <= now) this.#result.pastRings++;
      else if (!this.#history.occupied?.(rule, lead, task, recipient))
        this.#take(fill(this.#scratch, this.#planner, rule, lead, task, recipient, instant, originDay));
    } catch (error) {
      this.#result.faults.push({ ruleId: rule.id, taskId: task.id, message: (error as Error).message });
    }
  }

  /** Takes a notice into the result when it stands in the window; what counts towards a most of messages is looked at in the end. */
  #take(notice: PlannedNotice): void {
    if (this.#anyCap && notice.unrung === null && !notice.folded) {
      const reader = this.#planner.facts.people.get(notice.readerId);
      if (reader && reader.dailyCap !== null) return this.#keepForCap(reader, notice);
    }
    if (notice.folded && notice.unrung === null) {
      const waiting = this.#folded.get(notice.readerId) ?? new Set();
      this.#folded.set(notice.readerId, waiting.add(notice.leavesAt));
    }
    this.#takeNow(notice);
  }

  #keepForCap(reader: PersonFacts, notice: PlannedNotice): void {
    const kept = this.#capped.get(reader);
    if (kept) kept.push({ ...notice });
    else this.#capped.set(reader, [{ ...notice }]);
  }

  /** Step 8 of those who have a most of messages a day, over everything that leaves from now on; the window selects from that. */
  capAll(ruleOf: (id: number) => RuleFacts | undefined, taskOf: (id: number) => TaskFacts | undefined): void {
    const { now } = this.#window;
    for (const [reader, notices] of this.#capped) {
      const sent = this.#history.sentToday?.(reader.id) ?? 0;
      const outgoing = notices.map((notice, id) => {
        const rule = ruleOf(notice.ruleId);
        const task = taskOf(notice.taskId);
        return outgoingOf(id, notice, rule, task, task && this.#planner.momentOf('due', task));
      });
      const sentOn = new Map([[reader.zone.dayOf(now), sent]]);
      const messages = capAndFold(
        outgoing,
        limitsOf(reader, sentOn, [...(this.#folded.get(reader.id) ?? [])])
      );
      for (const { at, ids } of messages)
        for (const id of ids) this.#putOff(notices[id]!, at > notices[id]!.leavesAt, at, ruleOf, taskOf);
    }
  }

  #putOff(
    notice: PlannedNotice,
    isPutOff: boolean,
    at: InstantMs,
    ruleOf: (id: number) => RuleFacts | undefined,
    taskOf: (id: number) => TaskFacts | undefined
  ): void {
    if (isPutOff) {
      notice.folded = true;
      notice.leavesAt = at;
      const task = taskOf(notice.taskId);
      const lead = leadOf(ruleOf(notice.ruleId), task, notice.leadId);
      if (lead && task) notice.lateBell = this.#planner.isLate(lead, task, at);
    }
    this.#takeNow(notice);
  }

  #takeNow(notice: PlannedNotice): void {
    const { from, until } = this.#window;
    const at = shownAt(notice);
    if (at > from && at <= until) this.#result.notices.push(notice);
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
    for (const lead of leadsFor(rule, task, recipient.id)) {
      try {
        const { instant, originDay } = this.#planner.ring(lead, task, recipient);
        if (!(instant > after && instant <= until)) continue;
        if (instant <= this.#window.now) {
          if (!held.some((notice) => notice.leadId === lead.lead.id)) this.#result.pastRings++;
        } else if (!this.#history.occupied?.(rule, lead, task, recipient)) {
          (found ??= []).push(fill(blank(), this.#planner, rule, lead, task, recipient, instant, originDay));
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

/** A notice to be filled. Its instants are fractions from the start, so that filling it again makes no garbage. */
function blank(): PlannedNotice {
  return {
    ruleId: 0,
    leadId: '',
    leadOrder: 0,
    taskId: 0,
    recipientId: 0,
    readerId: 0,
    ringAt: NaN,
    leavesAt: NaN,
    originDay: 0,
    lateBell: false,
    folded: false,
    unrung: null,
    noticeId: null
  };
}

function fill(
  out: PlannedNotice,
  planner: Planner,
  rule: RuleFacts,
  lead: CompiledLead,
  task: TaskFacts,
  recipient: PersonFacts,
  ringAt: InstantMs,
  originDay: number
): PlannedNotice {
  const { at: leavesAt, readerId } = planner.leaves(rule, recipient, ringAt);
  const unreachable = Number.isNaN(leavesAt) || !isReachable(recipient);
  out.ruleId = rule.id;
  out.leadId = lead.lead.id;
  out.leadOrder = lead.order;
  out.taskId = task.id;
  out.recipientId = recipient.id;
  out.readerId = readerId;
  out.ringAt = ringAt;
  out.leavesAt = leavesAt;
  out.originDay = originDay;
  out.lateBell = !unreachable && planner.isLate(lead, task, leavesAt);
  out.folded = false;
  out.unrung = unreachable ? 'never reachable' : null;
  return out;
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

/** Waiting notices by rule and task. */
function groupWaiting(waiting: readonly PlannedNotice[]): Map<number, Map<number, PlannedNotice[]>> {
  const groups = new Map<number, Map<number, PlannedNotice[]>>();
  for (const one of waiting) {
    let ofRule = groups.get(one.ruleId);
    if (!ofRule) groups.set(one.ruleId, (ofRule = new Map()));
    const ofTask = ofRule.get(one.taskId);
    if (ofTask) ofTask.push(one);
    else ofRule.set(one.taskId, [one]);
  }
  return groups;
}
