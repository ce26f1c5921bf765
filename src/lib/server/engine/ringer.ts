import { traceForward } from '../../core/forecast/decide/bring-forward.ts';
import { afterOwners, hushedWhy, ringsAtOnce, unreachable } from '../../core/forecast/explain/explain.ts';
import { leadHolds } from '../../core/forecast/facts/lead-filter.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import { leadOf, repeats, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { limitsOf } from '../../core/forecast/decide/day-limits.ts';
import { nextDigestHour } from '../../core/ring/digest-hour.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { noticeKind } from '../../core/forecast/decide/notice-kind.ts';
import { afterOwner } from '../../core/forecast/decide/owner-first.ts';
import {
  forwardOf,
  mostOf,
  stillReason,
  tellsForward,
  tellsOf
} from '../../core/forecast/decide/plan-rule.ts';
import { aroundNow, sameInstant, type At } from '../../core/forecast/plan/series.ts';
import { quietReason, quietWhy } from '../../core/forecast/decide/quiet.ts';
import type { UnrungReason } from '../../core/forecast/plan/planned-notice.ts';
import { settle } from '../../core/forecast/decide/settle.ts';
import { THE_RUN, type Telling } from '../../core/forecast/plan/telling.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import type { Stores } from '../store/all.ts';
import type { NewNotice } from '../store/notices.ts';
import type { PlanRow } from '../store/plan.ts';
import type { CatchUp } from './catch-up.ts';
import type { RingNow, RunStarter } from './run-starter.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';
import type { RuleFaults } from './rule-faults.ts';
import { ringKey } from './ring-key.ts';

/** A ring taken up later than this after its instant is late: the server was down. */
const ON_TIME_MS = 60_000;
/** After downtime a ring is made up for while it is younger than this. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;

/** A telling whose ring is recorded. */
export interface RecordedTelling extends Telling {
  ringId: number;
  anchorValue: string;
  /** The instant of the ring, and now: later when the server was down. */
  ringAt: number;
  now: number;
  originDay: number;
  copied: 'to' | 'cc' | 'bcc';
  /** By which recipients of the Tell, where steps tell; empty where the plan does. */
  named: readonly string[];
}

/** Turns planned rings into notices. Everything here runs inside the tick's transaction. */
export class Ringer {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #catchUp: CatchUp;
  readonly #runs: RunStarter;
  readonly #faults: RuleFaults;

  constructor(stores: Stores, source: FactsSource, runs: RunStarter, catchUp: CatchUp, faults: RuleFaults) {
    this.#stores = stores;
    this.#source = source;
    this.#runs = runs;
    this.#catchUp = catchUp;
    this.#faults = faults;
  }

  /**
   * The instant of a planned row has come, or the minute that it is brought forward to: plans the next repeat, tests Watch and Stop, records
   * ring, run and notices, and decides the hold. Repeats that come to one instant ring together: the latest of them leaves.
   * @param now workspace clock; later than the ring instant when the server was down
   */
  ring(row: PlanRow, now: number): void {
    this.#stores.plan.drop(row);
    const rule = this.#source.live(row.ruleId);
    const task = this.#stores.tasks.factsOf(row.taskId);
    const lead = leadOf(rule?.facts, task, row.leadId);
    if (!rule || !lead || !task) return;
    const { planner } = this.#source;
    const recipient = row.recipientId === THE_RUN ? null : planner.facts.people.get(row.recipientId);
    if (recipient === undefined) return;
    const of = { rule, lead, task, now };
    if (row.forwardAt !== null && recipient)
      return this.#bringForward({ ...of, recipient }, { ...row, forwardAt: row.forwardAt });
    let rings: At[] = [row];
    if (repeats(lead)) {
      if (this.#isOver(rule.facts, lead, task, row)) return;
      rings = sameInstant({ planner, lead, task, recipient }, row);
      this.#planNext(rule.facts, row, lead, task, recipient);
    }
    if (!this.#isRung(rule.facts, lead, task, row.ringAt)) return;
    const still = planner.ladders.stillOfRing(lead, task, row.ringAt);
    if (still) {
      const reason = stillReason(planner, lead, task, still);
      if (reason && recipient) this.#tellByLeading({ ...of, recipient }, row, reason);
      return;
    }
    if (recipient === null) this.#startRun(of, row, rings);
    else for (const at of rings) this.#tellByLeading({ ...of, recipient }, { ...row, ...at });
    this.#faults.rang(row.ruleId, row.taskId);
  }

  /** A row that cannot be rung is passed over, and its series goes on. */
  passOver(row: PlanRow): void {
    this.#stores.plan.drop(row);
    const rule = this.#source.live(row.ruleId);
    const task = this.#stores.tasks.factsOf(row.taskId);
    const lead = leadOf(rule?.facts, task, row.leadId);
    const recipient =
      row.recipientId === THE_RUN ? null : this.#source.planner.facts.people.get(row.recipientId);
    if (rule && lead && task && recipient !== undefined && repeats(lead))
      this.#planNext(rule.facts, row, lead, task, recipient);
  }

  /** Whether the most of a series has left, or has run. */
  #isOver(rule: RuleFacts, lead: CompiledLead, task: TaskFacts, row: PlanRow): boolean {
    const key = ringKey(rule, lead, task, row.anchorValue, 0);
    const { tellings } = this.#stores;
    const { recipientId } = row;
    return (
      (recipientId === THE_RUN ? tellings.ran(key) : tellings.left({ ...key, recipientId })) >= mostOf(lead)
    );
  }

  /** What a ring does besides its leading Tells, once for the repeats that come to one instant. */
  #startRun(of: RingNow, row: PlanRow, rings: readonly At[]): void {
    const { rule, lead, task, now } = of;
    const { notices, runs } = this.#stores;
    const keyOf = ({ ordinal }: At) => ringKey(rule.facts, lead, task, row.anchorValue, ordinal);
    const latest = rings.at(-1)!;
    // Nothing is changed long after its moment: what a run would have done while the server was down is left undone.
    if (this.#isTooLate(lead, task, row, now, null) || notices.hasRun(keyOf(latest))) return;
    for (const at of rings.slice(0, -1)) {
      if (!notices.hasRing(keyOf(at))) continue;
      const run = runs.begin(notices.ring(keyOf(at), row.ringAt), rule.facts.id, rule.versionId, now);
      if (run.state === 'running' && run.nextAt === null) runs.end(run.id, 'stopped', 'same moment', now);
    }
    const ringId = notices.ring(keyOf(latest), row.ringAt);
    this.#runs.start(of, ringId, { originDay: latest.originDay });
  }

  #isRung(rule: RuleFacts, lead: CompiledLead, task: TaskFacts, at: number): boolean {
    const { planner } = this.#source;
    return (
      leadHolds(lead, task, planner.facts) &&
      planner.watches(rule, task, at) &&
      !planner.stopped(rule, task, at)
    );
  }

  /**
   * What would be late is told now, before its ring instant; at that instant the ring goes on with whatever it does besides. Where the
   * server slept through the minute, that is gone, and the ring comes at its instant.
   */
  #bringForward(
    { rule, lead, task, recipient, now }: RingNow & { recipient: PersonFacts },
    row: PlanRow & { forwardAt: number }
  ): void {
    const { planner } = this.#source;
    const { ringAt, forwardAt: at } = row;
    const of = { rule: rule.facts, lead, task, recipient, ordinal: row.ordinal };
    this.#stores.plan.add({ ...row, forwardAt: forwardOf(planner, of, ringAt, at) });
    if (now - at > ON_TIME_MS || !this.#isRung(rule.facts, lead, task, at)) return;
    if (planner.ladders.stillOfRing(lead, task, at)) return;
    for (const tell of tellsForward(planner, of, ringAt, at)) {
      const telling = this.#telling(rule, { ...of, tell }, row, at);
      if (!telling || this.enough(telling) !== null) continue;
      const why: WhyStep[] = [];
      planner.ring(lead, task, recipient, why, row.ordinal);
      traceForward(planner, telling, ringAt, at, why);
      this.#add(telling, {
        ...{ readerId: recipient.id, state: 'planned', reason: null, leavesAt: at, lateBell: false, why }
      });
    }
  }

  #tellByLeading(
    { rule, lead, task, recipient, now }: RingNow & { recipient: PersonFacts },
    row: PlanRow,
    unrung: UnrungReason | null = null
  ): void {
    const of = { rule: rule.facts, lead, task, recipient, ordinal: row.ordinal };
    for (const tell of tellsOf(this.#source.planner, of)) {
      const telling = this.#telling(rule, { ...of, tell }, row, now);
      if (!telling) continue;
      this.tell(telling, unrung ?? (this.#isTooLate(lead, task, row, now, recipient) ? 'too late' : null));
    }
  }

  /** Records ring and run of what is told to a recipient now; null where it is told already. */
  #telling(
    rule: LiveRule,
    of: Telling,
    { anchorValue, ringAt, originDay }: PlanRow,
    now: number
  ): RecordedTelling | null {
    const { notices, runs } = this.#stores;
    const { rule: facts, tell, lead, task, recipient, ordinal } = of;
    const key = ringKey(facts, lead, task, anchorValue, ordinal);
    if (notices.occupied({ ...key, recipientId: recipient.id, stepId: tell.step.id })) return null;
    const ringId = notices.ring(key, ringAt);
    const run = runs.begin(ringId, facts.id, rule.versionId, now);
    if (facts.program.tellsOnly && run.state === 'running') runs.end(run.id, 'ended', null, now);
    const { planner } = this.#source;
    const copied =
      tell.single !== null || facts.ofTask
        ? 'to'
        : (planner.audience.told(facts, tell, task, lead.lead.id).find(({ person }) => person === recipient)
            ?.as ?? 'to');
    return { ...of, ...{ ringId, anchorValue, ringAt, now, originDay, copied, named: [] } };
  }

  /** The table of past instants, “the server was down”: left while before its use-by and young enough. */
  #isTooLate(
    lead: CompiledLead,
    task: TaskFacts,
    row: PlanRow,
    now: number,
    recipient: PersonFacts | null
  ): boolean {
    if (this.#catchUp.passesOver(row.ringAt)) return true;
    if (now - row.ringAt <= ON_TIME_MS) return false;
    const { answer, until } = this.#catchUp;
    // Whoever was asked and wants them has seen how old they are.
    if (answer === null || row.ringAt > until) {
      if (now - row.ringAt >= DOWNTIME_LIMIT_MS) return true;
      if (this.#source.live(row.ruleId)?.facts.past.down === 'do not ring') return true;
    }
    return now >= this.#source.planner.useBy(lead, task, row.ringAt, recipient, row.ordinal);
  }

  #planNext(
    rule: RuleFacts,
    row: PlanRow,
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts | null
  ): void {
    const { planner } = this.#source;
    const { next } = aroundNow({ planner, lead, task, recipient }, row.ringAt);
    if (!next) return;
    const of = recipient && { rule, lead, task, recipient, ordinal: next.ordinal };
    const forwardAt = of && forwardOf(planner, of, next.ringAt, row.ringAt);
    this.#stores.plan.add({ ...row, ...next, forwardAt });
  }

  /** How many notices a recipient gets at most, where that many have left; null while there is room. */
  enough({
    rule,
    lead,
    task,
    anchorValue,
    recipient
  }: Pick<RecordedTelling, 'rule' | 'lead' | 'task' | 'anchorValue' | 'recipient'>): number | null {
    const { tellings } = this.#stores;
    const { afterNotices } = rule.stop;
    if (afterNotices !== null && tellings.leftTo(rule.id, task.id, recipient.id) >= afterNotices)
      return afterNotices;
    const most = lead.lead.kind === 'offset' ? lead.lead.repeat?.most : undefined;
    if (most === undefined) return null;
    const key = ringKey(rule, lead, task, anchorValue, 0);
    return tellings.left({ ...key, recipientId: recipient.id }) >= most ? most : null;
  }

  /**
   * Records the notice of one recipient: when it leaves and who reads it, or why it does not.
   * @param reason why it is not sent, where that is known already
   */
  tell(of: RecordedTelling, reason: UnrungReason | null = null): void {
    const { rule, lead, tell, task, recipient, ringAt, now, ordinal } = of;
    if (reason === null && this.enough(of) !== null) return;
    const { planner } = this.#source;
    const why: WhyStep[] = [];
    if (lead.anchor === null) why.push(...ringsAtOnce(planner, lead, task, recipient, ringAt));
    else planner.ring(lead, task, recipient, why, ordinal);
    const isHushed = (at: number) => planner.isHushed(rule, tell, task, recipient, at);
    // One that comes late asks what is quiet now, too.
    const quietAt = isHushed(ringAt) ? ringAt : isHushed(now) ? now : null;
    const hushed = quietAt !== null;
    if (hushed) why.push(hushedWhy(planner, of, quietAt));
    const said = hushed ? null : quietReason(planner, of, ringAt);
    if (said) why.push(quietWhy(planner, of, said, ringAt));
    if (!isReachable(recipient)) why.push(unreachable(recipient));
    const late = now - ringAt > ON_TIME_MS;
    const rungAt = late ? this.#takenUpAt(rule, recipient, now) : ringAt;
    const from = afterOwner(planner, of, rungAt, rungAt);
    if (from > rungAt) why.push(afterOwners(from, recipient));
    const settled = settle(planner, of, ringAt, from, hushed || said ? null : why);
    const { at: leavesAt, readerId, lateBell, dropped } = settled;
    const ends = !isReachable(recipient) || Number.isNaN(leavesAt) ? 'never reachable' : null;
    const unrung = reason ?? (hushed ? 'hushed' : (said ?? ends ?? (dropped ? 'too late' : null)));
    this.#add(of, {
      readerId,
      state: unrung ? 'unrung' : leavesAt > now ? 'held' : 'planned',
      reason: unrung,
      leavesAt: Number.isNaN(leavesAt) ? null : leavesAt,
      lateBell: !unrung && lateBell,
      why
    });
  }

  #add(
    { ringId, tell, lead, recipient, copied, named, ringAt, originDay, now }: RecordedTelling,
    ends: Pick<NewNotice, 'readerId' | 'state' | 'reason' | 'leavesAt' | 'lateBell' | 'why'>
  ): void {
    this.#stores.notices.add({
      ringId,
      stepId: tell.step.id,
      kind: noticeKind(tell, lead),
      forced: tell.step.force !== null,
      ...{ copied, named },
      recipientId: recipient.id,
      ...{ ringAt, originDay },
      ...ends,
      endedAt: ends.state === 'unrung' ? now : null
    });
  }

  /** A ring that the server slept through leaves now, or with the recipient's next gathered message, as the rule says. */
  #takenUpAt({ past }: RuleFacts, recipient: PersonFacts, now: number): number {
    const { answer } = this.#catchUp;
    if (answer === null ? past.down !== 'fold' : answer !== 'gather') return now;
    const limits = limitsOf(recipient, new Map());
    const { due, overdue } = recipient.digestMinutes;
    const digest =
      due === null && overdue === null ? null : nextDigestHour(now, (due ?? overdue)!, recipient);
    const opening = digest === null || Number.isNaN(digest) ? limits.nextOpening(now) : digest;
    return Number.isNaN(opening) ? now : opening;
  }
}
