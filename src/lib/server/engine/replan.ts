import { unreachable } from '../../core/forecast/explain.ts';
import {
  isReachable,
  leadOf,
  leadsFor,
  type CompiledLead,
  type PersonFacts,
  type TaskFacts
} from '../../core/forecast/facts.ts';
import type { Leaves, UnrungReason } from '../../core/forecast/planner.ts';
import { compareForMerge, type Mergeable } from '../../core/ring/merge.ts';
import { holdUntilReach, nextOpening } from '../../core/ring/hold.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { watches } from '../../core/rule/watch.ts';
import { NO_DUE_MOMENT, type StaleTask } from '../store/plan.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';

/** A ring whose instant had passed when its task was planned. */
interface PastRing extends Mergeable {
  lead: CompiledLead;
  anchorValue: string;
}

/**
 * Plans the rings of one task afresh: withdraws what waits and is no longer owed, writes the ring instants ahead, and
 * makes up for the latest past one where the cause of the re-plan owes it (the table of past instants).
 */
export class Replanner {
  readonly #stores: Stores;
  readonly #source: FactsSource;

  constructor(stores: Stores, source: FactsSource) {
    this.#stores = stores;
    this.#source = source;
  }

  /**
   * @param now workspace clock
   */
  replan(stale: StaleTask, now: number): void {
    const { plan, tasks } = this.#stores;
    const { taskId } = stale;
    plan.clear(taskId);
    plan.settled(taskId);
    const task = tasks.factsOf(taskId);
    this.#reviewWaiting(taskId, task, now);
    if (!task) return;
    const dueAt = this.#source.planner.momentOf('due', task) ?? NO_DUE_MOMENT;
    for (const rule of this.#source.liveRules()) this.#planRule(rule, task, dueAt, stale, now);
  }

  #planRule(rule: LiveRule, task: TaskFacts, dueAt: number, stale: StaleTask, now: number): void {
    const { planner } = this.#source;
    // The list is the planner's own: what is done for each asks it again.
    for (const recipient of [...planner.recipients(rule.facts, task)])
      this.#planFor(rule, task, recipient, dueAt, stale, now);
  }

  #planFor(
    rule: LiveRule,
    task: TaskFacts,
    recipient: PersonFacts,
    dueAt: number,
    stale: StaleTask,
    now: number
  ): void {
    const { planner } = this.#source;
    const past: PastRing[] = [];
    // Turning a rule on makes up for nothing; what came in or moved while it was on is owed its latest ring.
    const owed = stale.cause !== 'other' && stale.changeId > rule.onChange;
    for (const lead of leadsFor(rule.facts, task, recipient.id)) {
      const { instant, originDay } = planner.ring(lead, task, recipient);
      if (Number.isNaN(instant)) continue;
      const anchorValue = planner.anchorValue(lead, task);
      const key = { ...this.#keyOf(rule, lead, task), anchorValue, recipientId: recipient.id };
      if (this.#stores.notices.occupied(key)) continue;
      if (instant > now) {
        const { ruleId, leadId, taskId, recipientId } = key;
        this.#stores.plan.add({
          taskId,
          ruleId,
          leadId,
          recipientId,
          ringAt: instant,
          originDay,
          anchorValue,
          dueAt
        });
      } else if (owed && now < planner.useBy(lead, task, instant)) {
        past.push({ lead, anchorValue, originDay, ringAt: instant, leadOrder: lead.order });
      }
    }
    if (past.length > 0 && watches(rule.facts.watch, task)) {
      this.#makeUp(rule, task, recipient, past, stale, now);
    }
  }

  /** The latest past ring is caught: now when the recipient is in reach, else at the next opening; the others are overtaken. */
  #makeUp(
    rule: LiveRule,
    task: TaskFacts,
    recipient: PersonFacts,
    past: PastRing[],
    { cause, actorId }: StaleTask,
    now: number
  ): void {
    past.sort((a, b) => a.ringAt - b.ringAt || compareForMerge(a, b));
    const latest = past.pop()!;
    for (const ring of past) this.#record(rule, task, recipient, ring, 'overtaken', null, [], now);
    // A date moved into the past is never made up to the one who moved it.
    const told = cause === 'date moved' && recipient.id === actorId;
    if (told) return void this.#record(rule, task, recipient, latest, 'already told', null, [], now);
    if (!isReachable(recipient))
      return void this.#record(
        rule,
        task,
        recipient,
        latest,
        'never reachable',
        null,
        [unreachable(recipient)],
        now
      );
    const reach = this.#source.planner.reach(rule.facts, recipient);
    const reachable = holdUntilReach(now, reach) === now;
    const opening = reachable ? now : nextOpening(now, reach, recipient.calendar.spans);
    const how = reachable ? 'now' : 'opening';
    const words = cause === 'created' ? 'the task came in' : 'its date was moved';
    const why: WhyStep[] = [{ code: 'caught-up', params: { cause: words, how } }];
    if (Number.isNaN(opening))
      return void this.#record(rule, task, recipient, latest, 'never reachable', null, why, now);
    const { at, readerId } = this.#source.planner.leaves(rule.facts, recipient, opening, why);
    if (Number.isNaN(at))
      return void this.#record(rule, task, recipient, latest, 'never reachable', null, why, now);
    this.#record(rule, task, recipient, latest, null, { at, readerId }, why, now);
  }

  #record(
    rule: LiveRule,
    task: TaskFacts,
    recipient: PersonFacts,
    ring: PastRing,
    reason: UnrungReason | null,
    leaves: Leaves | null,
    added: WhyStep[],
    now: number
  ): void {
    const why: WhyStep[] = [];
    this.#source.planner.ring(ring.lead, task, recipient, why);
    why.push(...added);
    const key = { ...this.#keyOf(rule, ring.lead, task), anchorValue: ring.anchorValue };
    const leavesAt = leaves?.at ?? null;
    const ringId = this.#stores.notices.ring(key, rule.versionId, ring.ringAt, now);
    this.#stores.notices.add({
      ringId,
      recipientId: recipient.id,
      readerId: leaves?.readerId ?? recipient.id,
      state: reason ? 'unrung' : leavesAt! > now ? 'held' : 'planned',
      reason,
      ringAt: ring.ringAt,
      leavesAt,
      originDay: ring.originDay,
      lateBell: leavesAt !== null && this.#source.planner.isLate(ring.lead, task, leavesAt, why),
      why,
      endedAt: reason ? now : null
    });
  }

  /** What waits for a task is withdrawn when it is no longer owed, and moved when the recipient's reach has changed. */
  #reviewWaiting(taskId: number, task: TaskFacts | null, now: number): void {
    for (const notice of this.#stores.notices.waitingOf(taskId)) {
      const reason = this.#whyWithdrawn(notice, task);
      if (reason) this.#stores.notices.end(notice, 'withdrawn', reason, now);
      else this.#moveToReach(notice, task!, now);
    }
  }

  #whyWithdrawn(notice: NoticeRecord, task: TaskFacts | null): string | null {
    if (!task) return 'task gone';
    const { planner } = this.#source;
    const rule = this.#source.liveRules().find(({ facts }) => facts.id === notice.ruleId);
    if (!rule) return 'rule off';
    const lead = leadOf(rule.facts, task, notice.leadId);
    if (!lead) return rule.facts.ofTask ? 'reminder taken off' : 'lead taken out';
    if (!planner.anchor(lead, task) || planner.anchorValue(lead, task) !== notice.anchorValue)
      return 're-dated';
    if (!watches(rule.facts.watch, task)) return 'outside the Watch';
    const told = planner.recipients(rule.facts, task).some(({ id }) => id === notice.recipientId);
    return told ? null : 'somebody else is told';
  }

  #moveToReach(notice: NoticeRecord, task: TaskFacts, now: number): void {
    // What was made up for waits for an opening of its own choosing, not from its ring instant.
    if (notice.state !== 'held' || notice.why.some(({ code }) => code === 'caught-up')) return;
    const { planner } = this.#source;
    const rule = this.#source.liveRules().find(({ facts }) => facts.id === notice.ruleId)!.facts;
    const recipient = planner.facts.people.get(notice.recipientId)!;
    const { at: leavesAt, readerId } = planner.leaves(rule, recipient, Math.max(notice.ringAt, now));
    if (Number.isNaN(leavesAt)) return this.#stores.notices.end(notice, 'unrung', 'never reachable', now);
    if (leavesAt === notice.leavesAt && readerId === notice.readerId) return;
    const lead = leadOf(rule, task, notice.leadId)!;
    const why: WhyStep[] = [];
    planner.ring(lead, task, recipient, why);
    planner.leaves(rule, recipient, Math.max(notice.ringAt, now), why);
    const lateBell = planner.isLate(lead, task, leavesAt, why);
    this.#stores.notices.move(notice.id, { leavesAt, readerId, state: 'held', lateBell, why });
  }

  #keyOf(
    rule: LiveRule,
    { lead }: CompiledLead,
    task: TaskFacts
  ): { ruleId: number; leadId: string; taskId: number; round: number } {
    return { ruleId: rule.facts.id, leadId: lead.id, taskId: task.id, round: task.round };
  }
}
