import { groupBy } from '../../group-by.ts';
import { leadHolds } from '../facts/lead-filter.ts';
import { capAndFold } from '../../ring/cap.ts';
import { compareForMerge } from '../../ring/merge.ts';
import type { TaskDetails } from '../../task/details.ts';
import { isOncePerDate } from '../plan/schedule-value.ts';
import type { InstantMs } from '../../time/zone.ts';
import { isAlreadyTold } from '../decide/already-told.ts';
import { bundle } from '../decide/bundle.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { leadOf, repeats, type RuleFacts } from '../facts/compile-rule.ts';
import { limitsOf, outgoingOf } from '../decide/day-limits.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';
import type { Forecast, ForecastAsked, ForecastHistory, ForecastWindow } from './model.ts';
import { keyOf, NO_DUE, SimulationQueue, type SimulatedEvent } from './simulation-queue.ts';
import { type NoticeAhead, SimulatedTask } from './simulated-task.ts';
import { noticeKind } from '../decide/notice-kind.ts';
import { blankNotice, fillNotice, shownAt } from './plain-rules.ts';
import {
  forwardOf,
  mostOf,
  planRule,
  stillReason,
  tellsForward,
  tellsOf,
  type PlanAsked,
  type RingAhead
} from '../decide/plan-rule.ts';
import { Planner } from '../plan/planner.ts';
import type { PlannedNotice, UnrungReason } from '../plan/planned-notice.ts';
import { withoutOwn } from '../decide/own-changes.ts';
import type { RunAhead, ToldBefore } from './simulated.ts';
import { aroundNow, sameInstant, type At } from '../plan/series.ts';
import { quietReason } from '../decide/quiet.ts';
import { ifPutOff, isLateBell } from '../decide/settle.ts';
import { SimulatedRuns } from './simulated-runs.ts';
import { SimulatedSchedules } from './simulated-schedules.ts';
import type { SimulationPort } from './simulation-port.ts';
import { SimulatedWaiting } from './simulated-waiting.ts';
import { THE_RUN, runKey, type Telling } from '../plan/telling.ts';

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
  readonly #sent = new Map<string, number>();
  readonly #runs: SimulatedRuns;
  readonly #waiting: SimulatedWaiting;
  readonly #schedules: SimulatedSchedules;
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
    this.#waiting = new SimulatedWaiting(this);
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
      if (event.is === 'leave') this.#leave(event.at);
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
        this.#ring(event.rule, event.ring, event.state);
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

  #ring(rule: RuleFacts, ring: RingAhead, state: SimulatedTask): void {
    const { lead, recipientId, anchorValue } = ring;
    const { planner } = this;
    if (ring.forwardAt !== null) return this.#bringForward(rule, ring, state);
    const { task } = state;
    const recipient = recipientId === THE_RUN ? null : planner.facts.people.get(recipientId);
    if (recipient === undefined) return;
    let rings: At[] = [ring];
    if (repeats(lead)) {
      if (state.left(rule, lead, anchorValue, recipientId) >= mostOf(lead)) return;
      rings = sameInstant({ planner, lead, task, recipient }, ring);
      this.#queueRepeat(rule, ring, state, recipient);
    }
    if (!this.#isRung(rule, lead, task)) return;
    const still = planner.ladders.stillOfRing(lead, task, this.#now);
    const stands = still && stillReason(planner, lead, task, still);
    if (still && (stands === null || recipient === null)) return;
    if (recipient === null) {
      const { ordinal, originDay } = rings.at(-1)!;
      state.occupy(rule, runKey(lead, ordinal, anchorValue));
      const at = rule.program.start;
      this.#runs.start({ rule, lead, state, at, ordinal, anchorValue, actorId: null, originDay });
      return;
    }
    for (const tell of tellsOf(planner, { rule, lead, task, recipient })) {
      const of = { ...PLANNED, rule, tell, lead, state, anchorValue };
      for (const { ordinal, originDay } of rings) this.tell(of, recipient, ordinal, originDay, stands);
    }
  }

  /** What would be late is told now, before its ring instant; at that instant the ring goes on with whatever it does besides. */
  #bringForward(rule: RuleFacts, ring: RingAhead, state: SimulatedTask): void {
    const { lead, ordinal, recipientId, originDay, anchorValue, ringAt } = ring;
    const { planner } = this;
    const { task } = state;
    const recipient = planner.facts.people.get(recipientId);
    if (!recipient) return;
    const telling = { rule, lead, task, recipient, ordinal };
    const forwardAt = forwardOf(planner, telling, ringAt, this.#now);
    this.#queue.ring(rule, { ...ring, forwardAt }, state);
    if (!this.#isRung(rule, lead, task) || planner.ladders.stillOfRing(lead, task, this.#now)) return;
    for (const tell of tellsForward(planner, telling, ringAt, this.#now)) {
      const of = { ...PLANNED, rule, tell, lead, state, anchorValue };
      const key = { lead, ordinal, anchorValue, stepId: tell.step.id, recipientId };
      if (state.occupied(rule, key) || this.#hasHadEnough(of, recipientId)) continue;
      this.queueNotice({
        ...of,
        notice: {
          ...blankNotice(),
          ...{ ruleId: rule.id, leadId: lead.lead.id, leadOrder: lead.order, stepId: tell.step.id },
          ...{ taskId: task.id, recipientId, readerId: recipientId, ordinal, ringAt, originDay },
          leavesAt: this.#now,
          ifActs: state.changedBy
        }
      });
    }
  }

  /** Whether a rule rings a task now by a lead. */
  #isRung(rule: RuleFacts, lead: CompiledLead, task: TaskFacts): boolean {
    const { planner } = this;
    return (
      leadHolds(lead, task, planner.facts) &&
      planner.watches(rule, task, this.#now) &&
      !planner.stopped(rule, task, this.#now)
    );
  }

  #queueRepeat(rule: RuleFacts, ring: RingAhead, state: SimulatedTask, recipient: PersonFacts | null): void {
    const { planner } = this;
    const { lead } = ring;
    const { task } = state;
    const { next } = aroundNow({ planner, lead, task, recipient }, this.#now);
    if (!next) return;
    const of = recipient && { rule, lead, task, recipient, ordinal: next.ordinal };
    const forwardAt = of && forwardOf(planner, of, next.ringAt, this.#now);
    this.#queue.ring(rule, { ...ring, ...next, forwardAt }, state);
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
    if (this.#hasHadEnough(of, recipient.id)) return;
    const telling = { rule, tell, lead, task: state.task, recipient, ordinal };
    const notice = fillNotice(blankNotice(), this.planner, telling, this.#now, originDay);
    notice.ifActs = state.changedBy;
    notice.unrung = unrung ?? notice.unrung;
    this.queueNotice({ ...of, notice });
  }

  #hasHadEnough(
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

  /** Everything that leaves at an instant, as the engine sends it. */
  #leave(at: InstantMs): void {
    const leaving: NoticeAhead[] = [];
    for (
      let event = this.#queue.first();
      event?.at === at && event.is === 'leave';
      event = this.#queue.first()
    ) {
      this.#queue.pop();
      if (!event.ahead.withdrawn) leaving.push(event.ahead);
    }
    const byReader = groupBy(
      this.#mergedFirst(leaving).filter((ahead) => this.#isStillTold(ahead)),
      ({ notice }) => notice.readerId
    );
    for (const [readerId, notices] of byReader)
      this.#send(this.planner.facts.people.get(readerId)!, notices, at);
  }

  /** Step 7; those that are merged away end here. */
  #mergedFirst(leaving: readonly NoticeAhead[]): NoticeAhead[] {
    // By task: on the morning after a long weekend everything leaves at one moment.
    const byTask = groupBy(leaving, ({ state }) => state);
    return leaving.filter((ahead) => {
      const { notice, rule, tell } = ahead;
      if (notice.folded) return true;
      const beaten = byTask
        .get(ahead.state)!
        .some(
          (other) =>
            other !== ahead &&
            !other.notice.folded &&
            other.rule.id === rule.id &&
            other.tell.step.id === tell.step.id &&
            other.notice.recipientId === notice.recipientId &&
            compareForMerge(other.notice, notice) > 0
        );
      if (beaten) this.unring(ahead, 'same moment');
      return !beaten;
    });
  }

  /** What cannot be tested does not leave. */
  #isStillTold(ahead: NoticeAhead): boolean {
    let told = false;
    this.attempt(ahead.rule.id, ahead.notice.taskId, () => (told = this.#isStillTrue(ahead)));
    if (!told && ahead.notice.unrung === null && !Number.isNaN(ahead.notice.leavesAt))
      this.unring(ahead, 'faulty');
    return told;
  }

  #isStillTrue(ahead: NoticeAhead): boolean {
    const { rule, state, own, notice, regardless, tell } = ahead;
    if (notice.folded && notice.unrung === null && tell.step.force !== null) return true;
    if (!regardless) {
      const { task, details } = withoutOwn(state.task, this.planner.facts.detailsOf(state.task.id), own);
      const asked = own.length > 0 ? details : null;
      if (
        !this.planner.watches(rule, task, this.#now, asked) ||
        this.planner.stopped(rule, task, this.#now, asked)
      ) {
        this.unring(ahead, 'no longer true');
        return false;
      }
    }
    const still = ahead.snoozed ? null : this.planner.ladders.stillAt(ahead.lead, state.task, this.#now);
    if (still?.why === 'waits for others') {
      this.#waiting.letWait(ahead);
      return false;
    }
    if (still) {
      this.unring(ahead, 'no longer true');
      return false;
    }
    const quiet = ahead.snoozed ? null : quietReason(this.planner, this.tellingOf(ahead), this.#now);
    if (quiet) {
      this.unring(ahead, quiet);
      return false;
    }
    if (this.#hasHadEnough(ahead, notice.recipientId)) {
      this.unring(ahead, 'enough notices');
      return false;
    }
    if (!notice.folded && state.told.some((told) => isAlreadyTold(this.#toldBy(ahead), told))) {
      this.unring(ahead, 'already told');
      return false;
    }
    return true;
  }

  #toldBy({ notice, tell, lead }: NoticeAhead): ToldBefore {
    const { leavesAt, readerId, ruleId } = notice;
    return { leavesAt, readerId, ruleId, kind: noticeKind(tell, lead), forced: tell.step.force !== null };
  }

  /** Step 8 for one reader at one instant: what was put off before goes first, together. */
  #send(reader: PersonFacts, notices: readonly NoticeAhead[], at: InstantMs): void {
    const day = reader.zone.dayOf(at);
    const key = `${reader.id}/${day}`;
    const foldedNow = notices.filter(({ notice }) => notice.folded);
    const fresh = notices.filter(({ notice }) => !notice.folded);
    if (foldedNow.length > 0) this.#count(key);
    for (const ahead of foldedNow) this.#left(ahead);
    const messages = bundle(
      fresh.map((ahead) => ({
        ...this.#toldBy(ahead),
        ...{ stepId: ahead.tell.step.id, taskId: ahead.notice.taskId, recipientId: ahead.notice.recipientId },
        ...{ gather: ahead.tell.step.gather, ahead }
      }))
    ).map((message) => message.map(({ ahead }) => ahead));
    const sent = this.#sentOn(key, reader, day);
    const outgoing = messages.map(([first], i) =>
      outgoingOf(
        i,
        first!.notice,
        first!.rule,
        first!.state.task,
        first!.state.dueAt === NO_DUE ? null : first!.state.dueAt
      )
    );
    for (const { at: to, ids } of capAndFold(outgoing, limitsOf(reader, new Map([[day, sent]])))) {
      if (to <= at) {
        this.#count(key);
        for (const i of ids) for (const ahead of messages[i]!) this.#left(ahead);
        continue;
      }
      for (const i of ids) this.#putOffMessage(messages[i]!, key, to);
    }
  }

  /** Step 9 for a message that step 8 would put off: it leaves now, by itself, waits, or is dropped. */
  #putOffMessage(own: readonly NoticeAhead[], key: string, to: InstantMs): void {
    if (own.some((ahead) => this.#ifPutOff(ahead, to) === 'leaves now')) {
      this.#count(key);
      for (const ahead of own) this.#left(ahead);
      return;
    }
    for (const ahead of own)
      if (this.#ifPutOff(ahead, to) === 'is dropped') this.unring(ahead, 'too late');
      else this.#putOff(ahead, to);
  }

  #ifPutOff(ahead: NoticeAhead, to: InstantMs): ReturnType<typeof ifPutOff> {
    return ifPutOff(this.planner, this.tellingOf(ahead), ahead.notice.ringAt, to);
  }

  tellingOf({ notice, rule, tell, lead, state }: NoticeAhead): Telling {
    const recipient = this.planner.facts.people.get(notice.recipientId)!;
    return { rule, tell, lead, task: state.task, recipient, ordinal: notice.ordinal };
  }

  #sentOn(key: string, reader: PersonFacts, day: number): number {
    const before =
      day === reader.zone.dayOf(this.#window.now) ? (this.#history.sentToday?.(reader.id) ?? 0) : 0;
    return before + (this.#sent.get(key) ?? 0);
  }

  #count(key: string): void {
    this.#sent.set(key, (this.#sent.get(key) ?? 0) + 1);
  }

  #putOff(ahead: NoticeAhead, to: InstantMs): void {
    const { notice } = ahead;
    notice.folded = true;
    notice.leavesAt = to;
    notice.lateBell = isLateBell(this.planner, this.tellingOf(ahead), notice.ringAt, to);
    this.queueNotice(ahead);
  }

  #left(ahead: NoticeAhead): void {
    const { notice, rule, lead, state, anchorValue } = ahead;
    state.countLeft(rule, lead, anchorValue, notice.recipientId, this.#toldBy(ahead));
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

/** What a notice of the plan has: nothing that its run did, and no names of those whom it tells. */
const PLANNED = { own: [], regardless: false, actorId: null, named: [], snoozed: false } as const;

function isSameRing(ring: RingAhead, key: Parameters<PlanAsked['due']>[0]): boolean {
  return (
    ring.lead === key.lead &&
    ring.ordinal === key.ordinal &&
    ring.anchorValue === key.anchorValue &&
    ring.recipientId === key.recipientId &&
    ring.ringAt === key.ringAt
  );
}
