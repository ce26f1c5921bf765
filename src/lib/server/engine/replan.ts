import { CodedError } from '../../core/errors.ts';
import { leadOf, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { afterOwners, ringsAtOnce } from '../../core/forecast/explain/explain.ts';
import { afterOwner } from '../../core/forecast/decide/owner-first.ts';
import { withoutOwn } from '../../core/forecast/decide/own-changes.ts';
import { madeUp, type MadeUp, type PastCause } from '../../core/forecast/decide/made-up.ts';
import { setBy } from '../../core/forecast/facts/reminders.ts';
import {
  planRule,
  type CaughtUp,
  type PastKey,
  type PlanAsked
} from '../../core/forecast/decide/plan-rule.ts';
import { isLateBell, settle } from '../../core/forecast/decide/settle.ts';
import { noticeKind } from '../../core/forecast/decide/notice-kind.ts';
import { nextOpening } from '../../core/ring/hold.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { NO_DUE_MOMENT, type PlanRow, type StaleTask } from '../store/plan.ts';
import type { NewNotice, NoticeRecord } from '../store/notices.ts';
import { isDone } from '../store/tellings.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import type { RuleFaults } from './rule-faults.ts';
import { ringKey } from './ring-key.ts';
import { letWait } from './let-wait.ts';
import { RungOf } from './rung-of.ts';
import type { ScheduleClocks } from './schedule-clocks.ts';
import { Seating } from './seating.ts';
import { toldInstead } from './told-instead.ts';

/** Why a notice was withdrawn from whom its Tell tells no more. */
const SOMEBODY_ELSE = 'somebody else is told';

/** A task whose plan is made anew. */
interface Planning {
  task: TaskFacts;
  /** ms; what has none comes after everything that has. */
  dueAt: number;
  /** Why, with the rows of the plan before that have come. */
  stale: StaleTask & { due: readonly PlanRow[] };
  rung: RungOf;
  now: number;
}

/**
 * Plans the rings of one task afresh: withdraws what waits and is no longer owed, writes the ring instants ahead, and
 * makes up for the latest past one where the cause of the re-plan owes it (the table of past instants).
 */
export class Replanner {
  readonly #stores: Stores;
  readonly #source: FactsSource;

  readonly #faults: RuleFaults;
  readonly #seating: Seating;

  constructor(stores: Stores, source: FactsSource, clocks: ScheduleClocks, faults: RuleFaults) {
    this.#stores = stores;
    this.#source = source;
    this.#faults = faults;
    this.#seating = new Seating(stores, source, clocks, (ruleId, taskId, now, compute) =>
      this.#computed(ruleId, taskId, now, compute)
    );
  }

  /**
   * @param task as it stands; null where it is gone
   * @param now workspace clock
   */
  replan(stale: StaleTask, task: TaskFacts | null, now: number): void {
    const { plan } = this.#stores;
    const { taskId } = stale;
    const due = plan.dueOf(taskId, now);
    plan.clear(taskId);
    plan.settled(taskId);
    this.#faults.review(taskId, task);
    this.#reviewRuns(taskId, task, now);
    this.#reviewWaiting(stale, task, now);
    this.#seating.seat(stale, task, now);
    if (!task) return;
    const dueAt = this.#source.planner.dates.momentOf('due', task) ?? NO_DUE_MOMENT;
    const planning = { task, dueAt, now, rung: new RungOf(this.#stores, taskId), stale: { ...stale, due } };
    for (const rule of this.#source.liveRules()) this.#planRule(rule, planning);
  }

  #planRule(rule: LiveRule, { task, dueAt, stale, rung, now }: Planning): void {
    const { plan } = this.#stores;
    const planned = this.#computed(rule.facts.id, task.id, now, () => {
      const { ahead, caught } = planRule(this.#source.planner, rule.facts, task, {
        now,
        actorId: stale.actorId,
        due: (ring) => stale.due.find((row) => row.ruleId === rule.facts.id && isSameRing(row, ring)) ?? null,
        occupied: ({ lead, ordinal, anchorValue, stepId, recipientId }) =>
          rung.occupied(ringKey(rule.facts, lead, task, anchorValue, ordinal), stepId, recipientId),
        left: (lead, anchorValue, recipientId) =>
          rung.left(ringKey(rule.facts, lead, task, anchorValue, 0), recipientId),
        owes: (past) => this.#owes(rule, task, past, stale, rung)
      });
      return {
        ahead,
        caught: caught.map((one) => ({ ...one, lateBell: this.#isLateBell(rule, task, one) }))
      };
    });
    if (!planned) return;
    const { ahead, caught } = planned;
    for (const { lead, ordinal, recipientId, ringAt, forwardAt, originDay, anchorValue } of ahead)
      plan.add({
        taskId: task.id,
        ruleId: rule.facts.id,
        leadId: lead.lead.id,
        leadOrder: lead.order,
        ...{ recipientId, ordinal, ringAt, forwardAt, originDay, anchorValue, dueAt }
      });
    for (const one of caught) this.#record(rule, task, one, stale, now);
  }

  /** What is computed of a rule for a task; null where that cannot be: it is a fault of that rule for that task, and of no other. */
  #computed<T>(ruleId: number, taskId: number, now: number, compute: () => T): T | null {
    try {
      return compute();
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(ruleId, taskId, 'planning', error, now);
      return null;
    }
  }

  #isLateBell(
    { facts: rule }: LiveRule,
    task: TaskFacts,
    { lead, tell, recipient, ordinal, ringAt, leavesAt, why }: CaughtUp
  ): boolean {
    const of = { rule, tell, lead, task, recipient, ordinal };
    return leavesAt !== null && isLateBell(this.#source.planner, of, ringAt, leavesAt, why);
  }

  /** Why a ring that has passed is owed; null when it is not. Turning a rule on makes up for nothing unless it says so. */
  #owes(rule: LiveRule, task: TaskFacts, past: PastKey, stale: StaleTask, before: RungOf): PastCause | null {
    if (stale.cause === 'undone') return null;
    const isNew = stale.changeId > rule.onChange;
    // What a run changes itself never sets off its own Watch.
    if (isNew && this.#stores.changes.ruleOf(stale.changeId) === rule.facts.id) return null;
    if (isNew && stale.cause === 'created') return 'created';
    const key = ringKey(rule.facts, past.lead, task, past.anchorValue, past.ordinal);
    const rung = before.rung({ ...key, stepId: past.stepId });
    // Unrung for this date: a date that moved away and came back owes it no more.
    if (rung.some((one) => one.recipientId === past.recipientId && isDone(one))) return null;
    if (isNew && stale.cause === 'date moved') return 'moved';
    // Whoever sets a reminder whose moment has passed, on work that comes again, means the next round.
    if (rule.facts.ofTask && past.ringAt <= this.#setAt(past)) return null;
    // What passed until an undo brought it back is owed to none but those who come to it afterwards.
    const known = rung.some(({ recipientId }) => recipientId === past.recipientId);
    const isPassed = past.ringAt <= (this.#notMadeUpUntil(task, rule) ?? -Infinity);
    if (isPassed && (known || !rung.some(isDone))) return null;
    // It waited for somebody in whose place they now stand.
    if (rung.some(({ reason }) => reason === SOMEBODY_ELSE)) return 'new recipient';
    if (rule.facts.past.turnedOn !== 'do not ring' && this.#stores.plan.turnedOn().has(rule.facts.id))
      return 'turned on';
    if (!isNew || stale.changeId === 0) return null;
    // What a former version of the rule told is not told anew by this one.
    const isOfThis = (at: number) => at >= rule.liveAt;
    if (rung.some((one) => isDone(one) && isOfThis(one.decidedAt ?? past.ringAt)))
      return isOfThis(past.ringAt) || this.#hasCome(task, rule, stale) ? 'new recipient' : null;
    return isOfThis(past.ringAt) ? 'came true' : null;
  }

  /**
   * Whether somebody may have come to a task since a rule was turned on. Of two recipients, whoever's own instant had passed by then is owed
   * nothing because the other's had not.
   */
  #hasCome({ id }: TaskFacts, { liveAt }: LiveRule, { changeId }: StaleTask): boolean {
    return this.#source.detailsOf(id).assignedAt > liveAt || this.#stores.changes.addresses(changeId);
  }

  /** When the reminder of a ring was set. */
  #setAt({ lead }: PastKey): number {
    const { table, id } = setBy(lead.lead.id);
    return this.#stores.changes.latestOf(table, id)?.at ?? -Infinity;
  }

  #notMadeUpUntil({ id, projectId }: TaskFacts, { facts }: LiveRule): number | null {
    return this.#stores.undoing.notMadeUpUntil(id, projectId, facts.id);
  }

  #record(
    rule: LiveRule,
    task: TaskFacts,
    one: CaughtUp & { lateBell: boolean },
    { changeId }: StaleTask,
    now: number
  ): void {
    const { lead, ordinal, tell, recipient, ringAt, originDay, anchorValue } = one;
    const { reason, leavesAt, readerId, lateBell, why } = one;
    const { notices, runs } = this.#stores;
    const ringId = notices.ring(ringKey(rule.facts, lead, task, anchorValue, ordinal), ringAt);
    const run = runs.begin(ringId, rule.facts.id, rule.versionId, now);
    if (run.state === 'running' && run.nextAt === null) runs.end(run.id, 'ended', null, now);
    notices.add({
      ringId,
      stepId: tell.step.id,
      kind: noticeKind(tell, lead),
      forced: tell.step.force !== null,
      copied: 'to',
      recipientId: recipient.id,
      readerId,
      ...endOf({ reason, leavesAt }, now),
      ...{ ringAt, originDay, lateBell, why },
      setOffBy: changeId || null
    });
  }

  /** Runs that wait end with their rule, or when their date has moved; what they wait to test is tested when they go on. */
  #reviewRuns(taskId: number, task: TaskFacts | null, now: number): void {
    for (const run of this.#stores.runs.waitingOf(taskId)) {
      const live = this.#source.live(run.ruleId);
      const outcome = !task
        ? 'task gone'
        : !live
          ? 'rule off'
          : task.round !== this.#roundOf(run.ringId)
            ? 'next round'
            : null;
      if (outcome) this.#stores.runs.endForNow(run.id, outcome, now);
    }
  }

  #roundOf(ringId: number): number {
    return this.#stores.notices.roundOfRing(ringId);
  }

  /** What waits for a task is withdrawn when it is no longer owed, and moved when the recipient's reach has changed. */
  #reviewWaiting({ taskId, changeId }: StaleTask, task: TaskFacts | null, now: number): void {
    for (const notice of this.#stores.notices.waitingOf(taskId))
      // One that cannot be looked at stays, and is tested when it is to leave.
      this.#computed(notice.ruleId, taskId, now, () => {
        const reason = this.#whyWithdrawn(notice, task, now);
        if (reason) this.#stores.notices.endForNow(notice, 'withdrawn', reason, now);
        else if (this.#waits(notice, task!, now)) letWait(this.#stores.notices, notice);
        else this.#moveToReach(notice, task!, now);
        if (task && (reason === null || reason === SOMEBODY_ELSE))
          this.#tellInstead(notice, task, changeId || null, now);
      });
  }

  /** What a ladder holds while its task waits for others waits too. A snooze is one's own and does not. */
  #waits({ ruleId, leadId, snooze }: NoticeRecord, task: TaskFacts, now: number): boolean {
    const lead = leadOf(this.#source.live(ruleId)?.facts, task, leadId);
    return (
      snooze === 0 && lead !== undefined && this.#source.planner.ladders.stillAt(lead, task, now) !== null
    );
  }

  /** What waited for somebody is told to whoever stands in their place. */
  #tellInstead(notice: NoticeRecord, task: TaskFacts, setOffBy: number | null, now: number): void {
    const { planner } = this.#source;
    const { notices } = this.#stores;
    const rule = this.#source.live(notice.ruleId)!.facts;
    const lead = leadOf(rule, task, notice.leadId)!;
    const tell = rule.program.tells.get(notice.stepId)!;
    const instead = toldInstead(this.#stores, planner, { rule, lead, tell, task }, notice);
    for (const { person: recipient, as, named } of instead) {
      const of = { rule, tell, lead, task, recipient, ordinal: notice.ordinal };
      const owed = { ringAt: notice.ringAt, cause: 'new recipient', actorId: null } as const;
      const made = madeUp(planner, of, owed, now);
      const why = [...ringsAtOnce(planner, lead, task, recipient, notice.ringAt), ...made.why];
      const lateBell = made.leavesAt !== null && isLateBell(planner, of, notice.ringAt, made.leavesAt, why);
      notices.add({
        ...{ ringId: notice.ringId, stepId: notice.stepId, kind: notice.kind, forced: notice.forced },
        ...{ copied: as, named, recipientId: recipient.id, readerId: made.readerId },
        ...endOf(made, now),
        ...{ ringAt: notice.ringAt, originDay: notice.originDay, lateBell, why, setOffBy }
      });
    }
  }

  /** Why a notice that waits is no longer owed; null when it is. */
  #whyWithdrawn(notice: NoticeRecord, task: TaskFacts | null, now: number): string | null {
    if (!task) return 'task gone';
    const { planner } = this.#source;
    const rule = this.#source.live(notice.ruleId)?.facts;
    if (!rule) return 'rule off';
    const lead = leadOf(rule, task, notice.leadId);
    if (!lead) return rule.ofTask ? 'reminder removed' : 'ring time removed';
    if (task.round !== notice.round) return 'next round';
    const tell = rule.program.tells.get(notice.stepId);
    if (!tell) return 'step removed';
    const recipient = planner.facts.people.get(notice.recipientId);
    if (!recipient) return SOMEBODY_ELSE;
    if (planner.isHushed(rule, tell, task, recipient, now)) return 'hushed';
    if (notice.snooze > 0) return null;
    if (lead.anchor !== null) {
      // A lead that counts from what happens, counts from what happened when it rang.
      const anchored = planner.anchor(lead, task);
      const counted = lead.anchor !== 'earlier ring' && lead.anchor !== 'last touched';
      if (counted && (!anchored || planner.anchorValue(lead, task) !== notice.anchorValue)) return 're-dated';
    }
    const still = planner.ladders.stillAt(lead, task, now)?.why;
    if (still === 'acknowledged' || still === 'finished') return still;
    const run = this.#stores.runs.ofRing(notice.ringId);
    const seen = withoutOwn(task, planner.facts.detailsOf(task.id), run?.own ?? []);
    const details = run && run.own.length > 0 ? seen.details : null;
    if (!run?.regardless && !this.#isWatched(rule, seen.task, now, details)) return 'outside the Watch';
    const of = { ...notice, actorId: run?.actorId ?? null };
    return planner.audience.isTold(rule, tell, task, of) ? null : SOMEBODY_ELSE;
  }

  #isWatched(
    rule: RuleFacts,
    task: TaskFacts,
    now: number,
    details: Parameters<FactsSource['planner']['watches']>[3]
  ) {
    const { planner } = this.#source;
    return planner.watches(rule, task, now, details) && !planner.stopped(rule, task, now, details);
  }

  #moveToReach(notice: NoticeRecord, task: TaskFacts, now: number): void {
    // What was made up for waits for an opening of its own choosing, not from its ring instant.
    const isMadeUp = notice.why.some(({ code }) => code === 'caught-up');
    if (notice.state !== 'held' || (isMadeUp && notice.leavesAt !== null)) return;
    const { planner } = this.#source;
    const rule = this.#source.live(notice.ruleId)!.facts;
    const tell = rule.program.tells.get(notice.stepId)!;
    const recipient = planner.facts.people.get(notice.recipientId)!;
    const lead = leadOf(rule, task, notice.leadId)!;
    const of = { rule, tell, lead, task, recipient, ordinal: notice.ordinal };
    // What has waited for its ladder comes at the first opening after that.
    const begin =
      notice.leavesAt === null
        ? nextOpening(now, planner.reach(tell, recipient), recipient.calendar.spans)
        : Math.max(notice.ringAt, now);
    if (Number.isNaN(begin)) return this.#stores.notices.endForNow(notice, 'unrung', 'never reachable', now);
    const from = afterOwner(planner, of, begin, now, notice.ringAt);
    const settled = settle(planner, of, notice.ringAt, from);
    const { at: leavesAt, readerId, dropped } = settled;
    if (dropped) return this.#stores.notices.endForNow(notice, 'unrung', 'too late', now);
    if (Number.isNaN(leavesAt))
      return this.#stores.notices.endForNow(notice, 'unrung', 'never reachable', now);
    if (leavesAt === notice.leavesAt && readerId === notice.readerId) return;
    // What waited keeps what it waited for.
    const why: WhyStep[] = notice.leavesAt === null ? [...notice.why] : [];
    if (lead.anchor === null) why.push(...ringsAtOnce(planner, lead, task, recipient, notice.ringAt));
    else if (why.length === 0) planner.ring(lead, task, recipient, why, notice.ordinal);
    if (from > begin) why.push(afterOwners(from, recipient));
    const { lateBell } = settle(planner, of, notice.ringAt, from, why);
    this.#stores.notices.move(notice.id, { leavesAt, readerId, state: 'held', lateBell, why });
  }
}

function endOf(
  { reason, leavesAt }: Pick<MadeUp, 'reason' | 'leavesAt'>,
  now: number
): Pick<NewNotice, 'state' | 'reason' | 'leavesAt' | 'endedAt'> {
  if (reason) return { state: 'unrung', reason, leavesAt, endedAt: now };
  return { state: leavesAt! > now ? 'held' : 'planned', reason, leavesAt, endedAt: null };
}

function isSameRing(
  row: PlanRow,
  { lead, ordinal, anchorValue, recipientId, ringAt }: Parameters<PlanAsked['due']>[0]
): boolean {
  return (
    row.leadId === lead.lead.id &&
    row.ordinal === ordinal &&
    row.anchorValue === anchorValue &&
    row.recipientId === recipientId &&
    row.ringAt === ringAt
  );
}
