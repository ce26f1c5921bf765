import type { TaskDetails } from '../../task/details.ts';
import { isOncePerDate } from '../plan/schedule-value.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { leadOf, type RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import type { Forecast, ForecastAsked, ForecastHistory, ForecastWindow } from './model.ts';
import { keyOf, NO_DUE, SimulationQueue, type SimulatedEvent } from './simulation-queue.ts';
import { PLANNED, SimulatedTask, type NoticeAhead } from './simulated-task.ts';
import { blankNotice, fillNotice, shownAt } from './plain-rules.ts';
import { planRule, type PlanAsked, type RingAhead } from '../decide/plan-rule.ts';
import { Planner } from '../plan/planner.ts';
import type { PlannedNotice, UnrungReason } from '../plan/planned-notice.ts';
import type { RunAhead, ToldBefore } from './simulated.ts';
import { isLateBell } from '../decide/settle.ts';
import { SimulatedLeaving } from './simulated-leaving.ts';
import { SimulatedRings } from './simulated-rings.ts';
import { SimulatedRuns } from './simulated-runs.ts';
import { SimulatedSchedules } from './simulated-schedules.ts';
import type { SimulationPort } from './simulation-port.ts';
import { SimulatedWaiting } from './simulated-waiting.ts';
import { runKey, type Telling } from '../plan/telling.ts';

/**
 * A forecast that goes through time as the engine does: it rings, waits, acts on a shadow of the tasks and sends, in the same order. It is
 * for the tasks on which a rule does more than tell once, and for readers who have a most of messages a day.
 */
export class Simulation implements SimulationPort {
  readonly planner: Planner;
  readonly rules: readonly RuleFacts[];
  readonly result: Forecast;
  readonly #window: ForecastWindow;
  readonly #history: ForecastHistory;
  readonly #onFault: (ruleId: number, taskId: number, error: unknown) => void;
  readonly #states = new Map<number, SimulatedTask>();
  readonly #details = new Map<number, TaskDetails>();
  readonly #queue: SimulationQueue;
  readonly #runs: SimulatedRuns;
  readonly #waiting: SimulatedWaiting;
  readonly #schedules: SimulatedSchedules;
  readonly #leaving: SimulatedLeaving;
  readonly #rings: SimulatedRings;
  readonly #stale = new Set<SimulatedTask>();
  /** Notices that rang inside the window and have neither left nor been unrung. */
  #pending = 0;
  #now: InstantMs;

  constructor(
    { facts, rules, window, history, onFault }: ForecastAsked,
    tasks: readonly TaskFacts[],
    result: Forecast
  ) {
    this.rules = rules;
    this.result = result;
    this.#window = window;
    this.#queue = new SimulationQueue(window.until);
    this.#history = history;
    this.#onFault = onFault;
    this.#now = window.now;
    this.planner = new Planner(
      { ...facts, detailsOf: (id) => this.#details.get(id) ?? facts.detailsOf(id) },
      {
        ringsSoFar: (ruleId, taskId) =>
          this.#states.get(taskId)?.ringsSoFar(ruleId) ?? history.planner?.ringsSoFar(ruleId, taskId) ?? 0,
        lastLeft: (ruleId, leadId, taskId) => this.#states.get(taskId)?.lastLeft(ruleId, leadId) ?? null,
        hasTold: (rule, task, key) => this.#states.get(task.id)?.occupied(rule, key) ?? false
      }
    );
    this.#runs = new SimulatedRuns(this);
    this.#rings = new SimulatedRings(this, this.#queue, this.#runs);
    this.#waiting = new SimulatedWaiting(this);
    this.#leaving = new SimulatedLeaving(this, this.#queue, this.#waiting, {
      now: window.now,
      sentToday: history.sentToday
    });
    this.#schedules = new SimulatedSchedules(this, this.#runs, this.#queue, onFault);
    for (const task of tasks) this.#states.set(task.id, this.#stateOf(task));
  }

  get now(): InstantMs {
    return this.#now;
  }

  state(taskId: number): SimulatedTask | undefined {
    return this.#states.get(taskId);
  }

  get until(): InstantMs {
    return this.#window.until;
  }

  states(): Iterable<SimulatedTask> {
    return this.#states.values();
  }

  run(): void {
    const { until } = this.#window;
    for (const state of this.#states.values()) this.#plan(state);
    this.#schedules.begin();
    this.#queueWaiting();
    // What rang inside the window and leaves after it may be merged with what rings after it: the window only selects.
    for (;;) {
      const event = this.#queue.first(this.#pending > 0);
      if (!event || !(event.at <= until || this.#pending > 0)) break;
      this.#now = event.at;
      if (event.is === 'leave') this.#leaving.leave(event.at);
      else {
        this.#queue.pop();
        this.attempt(event.ruleId, event.taskId, () => this.#take(event));
      }
      this.#replanStale();
    }
  }

  /** What cannot be computed of one rule for one task is said, and stops nothing else. */
  attempt(ruleId: number, taskId: number, work: () => void): void {
    try {
      work();
    } catch (error) {
      this.#onFault(ruleId, taskId, error);
    }
  }

  #take(event: Exclude<SimulatedEvent, { is: 'leave' }>): void {
    switch (event.is) {
      case 'run':
        this.#runs.goOn(event.run);
        return;
      case 'schedule':
        this.#schedules.ring(event.rule, event.lead);
        return;
      case 'ring':
        if (event.version !== event.state.version) return;
        event.state.taken(event.ring);
        this.#rings.ring(event.rule, event.ring, event.state);
    }
  }

  #stateOf(task: TaskFacts): SimulatedTask {
    return new SimulatedTask(task, this.planner.dates.momentOf('due', task) ?? NO_DUE, this.#history);
  }

  /** A task that a rule made, or that one has changed. */
  adopt(
    task: TaskFacts,
    details: TaskDetails,
    ruleId: number,
    cause: 'created' | 'moved' | 'other'
  ): SimulatedTask {
    let state = this.#states.get(task.id);
    this.#details.set(task.id, details);
    if (!state) this.#states.set(task.id, (state = this.#stateOf(task)));
    state.task = task;
    state.changedBy ??= ruleId;
    if (state.stale === null || state.stale === 'other') state.stale = cause;
    state.staleBy = ruleId;
    this.#stale.add(state);
    state.dueAt = this.planner.dates.momentOf('due', task) ?? NO_DUE;
    return state;
  }

  #replanStale(): void {
    for (const state of this.#stale) {
      const due = state.planAnew(this.#now);
      for (const ahead of [...state.waiting])
        this.attempt(ahead.rule.id, state.task.id, () => this.#waiting.review(ahead));
      this.#plan(state, due);
      state.stale = null;
    }
    this.#stale.clear();
  }

  /** @param due rings of the plan before that come now */
  #plan(state: SimulatedTask, due: readonly { ruleId: number; ring: RingAhead }[] = []): void {
    for (const rule of this.rules) {
      if (!rule.ofTask && rule.planned.length === 0) continue;
      this.attempt(rule.id, state.task.id, () => this.#planRule(rule, state, due));
    }
    this.#schedules.seat(state);
  }

  #planRule(
    rule: RuleFacts,
    state: SimulatedTask,
    due: readonly { ruleId: number; ring: RingAhead }[]
  ): void {
    const { ahead, caught } = planRule(this.planner, rule, state.task, {
      now: this.#now,
      actorId: null,
      occupied: (key) => state.occupied(rule, key),
      due: (key) => due.find(({ ruleId, ring }) => ruleId === rule.id && isSameRing(ring, key))?.ring ?? null,
      left: (lead, value, recipientId) => state.left(rule, lead, value, recipientId),
      // What a run changes itself never sets off its own Watch.
      owes: (key) =>
        state.staleBy === rule.id
          ? null
          : state.owes({
              rung: state.hasRung(rule, key),
              passedOn: state.isPassedOn(rule, key),
              sinceNow: key.ringAt > this.#window.now
            })
    });
    for (const ring of ahead) this.#queue.ring(rule, ring, state);
    for (const one of caught) {
      const { lead, ordinal, tell, recipient, ringAt, originDay, anchorValue, reason, leavesAt, readerId } =
        one;
      const notice: PlannedNotice = {
        ...blankNotice(),
        ruleId: rule.id,
        leadId: lead.lead.id,
        leadOrder: lead.order,
        stepId: tell.step.id,
        taskId: state.task.id,
        recipientId: recipient.id,
        ...{ ordinal, readerId, ringAt, originDay },
        leavesAt: leavesAt ?? NaN,
        lateBell:
          leavesAt !== null &&
          isLateBell(
            this.planner,
            { rule, tell, lead, task: state.task, recipient, ordinal },
            ringAt,
            leavesAt
          ),
        unrung: reason,
        ifActs: state.changedBy
      };
      this.queueNotice({ ...PLANNED, notice, rule, tell, lead, state, anchorValue });
    }
  }

  /**
   * A notice for one recipient that rings now.
   * @param unrung why it is not sent, where that is known already
   */
  tell(
    of: Omit<NoticeAhead, 'notice'>,
    recipient: PersonFacts,
    ordinal: number,
    originDay: number,
    unrung: UnrungReason | null = null
  ): void {
    const { rule, tell, lead, state, anchorValue } = of;
    const key = { lead, ordinal, anchorValue, stepId: tell.step.id, recipientId: recipient.id };
    if (state.occupied(rule, key)) return;
    if (this.hasHadEnough(of, recipient.id)) return;
    const telling = { rule, tell, lead, task: state.task, recipient, ordinal };
    const notice = fillNotice(blankNotice(), this.planner, telling, this.#now, originDay);
    notice.ifActs = state.changedBy;
    notice.unrung = unrung ?? notice.unrung;
    this.queueNotice({ ...of, notice });
  }

  hasHadEnough(
    { rule, lead, state, anchorValue }: Omit<NoticeAhead, 'notice'>,
    recipientId: number
  ): boolean {
    const { afterNotices } = rule.stop;
    if (afterNotices !== null && state.leftTo(rule.id, recipientId) >= afterNotices) return true;
    const most = lead.lead.kind === 'offset' ? lead.lead.repeat?.most : undefined;
    return most !== undefined && state.left(rule, lead, anchorValue, recipientId) >= most;
  }

  queueNotice(ahead: NoticeAhead): void {
    const { notice, rule, state } = ahead;
    const key = keyOf(ahead);
    state.rang(rule, key);
    if (notice.unrung !== null) return this.#emit(notice);
    if (notice.ringAt <= this.#window.until && !notice.folded) this.#pending++;
    state.occupy(rule, key);
    state.wait(ahead);
    if (Number.isFinite(notice.leavesAt)) this.#queue.leave(ahead);
    else this.#waiting.letWait(ahead);
  }

  queueRun(run: RunAhead): void {
    this.#queue.run(run, this.#states.get(run.taskId)?.dueAt ?? NO_DUE, this.#now);
  }

  /** A ring that happens now: an event, a schedule's find, by hand. Everybody is told at once, and the steps follow. */
  ringAtOnce(
    rule: RuleFacts,
    lead: CompiledLead,
    state: SimulatedTask,
    anchorValue: string,
    actorId: number | null
  ): void {
    // Once for a date is once when it is heard.
    if (isOncePerDate(lead) && this.planner.isQuiet(rule, state.task, this.#now)) return;
    const key = runKey(lead, 0, anchorValue);
    const originDay = this.planner.dates.ownerZone(state.task).dayOf(this.#now);
    if (state.occupied(rule, key)) {
      if (isOncePerDate(lead)) this.#runs.tellOthers(rule, lead, state, anchorValue, originDay);
      return;
    }
    state.occupy(rule, key);
    this.#runs.start({ rule, lead, state, at: 0, ordinal: 0, anchorValue, actorId, originDay });
  }

  #queueWaiting(): void {
    for (const notice of this.#history.waiting ?? []) {
      const state = this.#states.get(notice.taskId);
      const rule = this.rules.find(({ id }) => id === notice.ruleId);
      const tell = rule?.program.tells.get(notice.stepId);
      const lead = state && leadOf(rule, state.task, notice.leadId);
      if (!rule || !state || !tell || !lead) continue;
      const { anchorValue, own, regardless, actorId, named, snoozed } = notice;
      const of = { rule, tell, lead, state, anchorValue, own, regardless, actorId, named, snoozed };
      // What is put off already is on its way too, and counts until it has left.
      if (notice.folded && notice.ringAt <= this.#window.until) this.#pending++;
      this.queueNotice({ ...of, notice: { ...notice } });
    }
    for (const run of this.#history.runs ?? []) this.queueRun(run);
  }

  tellingOf({ notice, rule, tell, lead, state }: NoticeAhead): Telling {
    const recipient = this.planner.facts.people.get(notice.recipientId)!;
    return { rule, tell, lead, task: state.task, recipient, ordinal: notice.ordinal };
  }

  /** A notice left. */
  left(ahead: NoticeAhead, told: ToldBefore): void {
    const { notice, rule, lead, state, anchorValue } = ahead;
    state.countLeft(rule, lead, anchorValue, notice.recipientId, told);
    state.done(ahead);
    this.#settle(notice);
    // A lead that counts from this notice is known now.
    if (!rule.planned.some((one) => one.anchor === 'earlier ring')) return;
    state.stale ??= 'other';
    this.#stale.add(state);
  }

  unring(ahead: NoticeAhead, reason: PlannedNotice['unrung']): void {
    const { notice, rule, state } = ahead;
    notice.unrung = reason;
    state.done(ahead);
    // What was said by another ring of the same moment is said: it does not ring again.
    if (reason !== 'same moment') state.free(rule, keyOf(ahead));
    this.#settle(notice);
  }

  /** It is not on its way any more: the forecast does not go on for its sake. */
  offTheWay({ ringAt }: PlannedNotice): void {
    if (ringAt <= this.#window.until) this.#pending--;
  }

  #settle(notice: PlannedNotice): void {
    this.offTheWay(notice);
    this.#emit(notice);
  }

  #emit(notice: PlannedNotice): void {
    const { from, until } = this.#window;
    const at = shownAt(notice);
    if (at > from && at <= until) this.result.notices.push(notice);
  }
}

function isSameRing(ring: RingAhead, key: Parameters<PlanAsked['due']>[0]): boolean {
  return (
    ring.lead === key.lead &&
    ring.ordinal === key.ordinal &&
    ring.anchorValue === key.anchorValue &&
    ring.recipientId === key.recipientId &&
    ring.ringAt === key.ringAt
  );
}
