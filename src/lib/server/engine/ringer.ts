import { composeMessage } from '../../core/message/compose.ts';
import { longMoment } from '../../core/time/format.ts';
import { compareForMerge } from '../../core/ring/merge.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { leadWords } from '../../core/rule/read-back.ts';
import { watches } from '../../core/rule/watch.ts';
import { unreachable } from '../../core/forecast/explain.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../../core/forecast/facts.ts';
import { messageIdOf } from '../outbox/message-id.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { PlanRow } from '../store/plan.ts';
import { toMoment } from '../store/tasks.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource, LiveRule } from './facts-source.ts';

/** A ring taken up later than this after its instant is late: the server was down. */
const ON_TIME_MS = 60_000;
/** After downtime a ring is made up for while it is younger than this. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;

/** Turns planned rings into notices, and notices into messages. Everything here runs inside the tick's transaction. */
export class Ringer {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #linkOf: (taskId: number) => string;

  constructor(stores: Stores, source: FactsSource, linkOf: (taskId: number) => string) {
    this.#stores = stores;
    this.#source = source;
    this.#linkOf = linkOf;
  }

  /**
   * The ring instant of a planned row has come: tests the Watch, records ring, run and notice, and decides the hold.
   * @param now workspace clock; later than the ring instant when the server was down
   */
  ring(row: PlanRow, now: number): void {
    this.#stores.plan.drop(row);
    const rule = this.#live(row.ruleId);
    const lead = rule?.facts.leads.find(({ lead: { id } }) => id === row.leadId);
    const task = this.#stores.tasks.factsOf(row.taskId);
    const recipient = this.#source.facts.people.get(row.recipientId);
    if (!rule || !lead || !task || !recipient || !watches(rule.facts.watch, task)) return;
    const key = {
      ruleId: row.ruleId,
      leadId: row.leadId,
      taskId: row.taskId,
      anchorValue: row.anchorValue,
      round: task.round
    };
    if (this.#stores.notices.occupied({ ...key, recipientId: row.recipientId })) return;

    const { planner } = this.#source;
    const late = now - row.ringAt > ON_TIME_MS;
    const tooLate =
      late && (now >= planner.useBy(lead, task, row.ringAt) || now - row.ringAt >= DOWNTIME_LIMIT_MS);
    const why: WhyStep[] = [];
    planner.ring(lead, task, recipient, why);
    if (!isReachable(recipient)) why.push(unreachable(recipient));
    const { at: leavesAt, readerId } = planner.leaves(rule.facts, recipient, late ? now : row.ringAt, why);
    const reason = tooLate
      ? 'too late'
      : !isReachable(recipient) || Number.isNaN(leavesAt)
        ? 'never reachable'
        : null;
    this.#stores.notices.add({
      ringId: this.#stores.notices.ring(key, rule.versionId, row.ringAt, now),
      recipientId: recipient.id,
      readerId,
      state: reason ? 'unrung' : leavesAt > now ? 'held' : 'planned',
      reason,
      ringAt: row.ringAt,
      leavesAt: Number.isNaN(leavesAt) ? null : leavesAt,
      originDay: row.originDay,
      lateBell: !reason && planner.isLate(lead, task, leavesAt, why),
      why,
      endedAt: reason ? now : null
    });
  }

  /**
   * The leaving instant of waiting notices of one rule, task and recipient has come: they become one, Watch is tested
   * again, the words are computed, and the message is queued.
   * @param group as `groupSameMoment` gives it
   */
  leave([kept, ...others]: readonly NoticeRecord[], now: number, machineNow: number): void {
    if (!kept) return;
    for (const other of others) this.#unring(other, 'same moment', now, [this.#sameMoment(kept)]);
    this.#send(kept, now, machineNow);
  }

  #send(notice: NoticeRecord, now: number, machineNow: number): void {
    const rule = this.#live(notice.ruleId);
    const task = this.#stores.tasks.factsOf(notice.taskId);
    const reader = this.#source.facts.people.get(notice.readerId);
    if (!rule || !task || !reader || !watches(rule.facts.watch, task))
      return this.#unring(notice, 'no longer true', now);
    if (!isReachable(reader)) return this.#unring(notice, 'never reachable', now, [unreachable(reader)]);
    const leavesAt = notice.leavesAt!;
    const { subject, text, html } = this.#compose(rule, task, reader, notice, leavesAt);
    const address = reader.email!.trim();
    const messageId = messageIdOf(notice, 'mail', this.#stores.settings.workspace()?.mailFromAddress ?? '');
    this.#stores.outbox.queue(
      { readerId: reader.id, messageId, leavesAt, subject, text, html },
      [notice.id],
      'mail',
      address,
      machineNow
    );
    this.#stores.notices.end(notice, 'sending', null, null);
  }

  #compose(rule: LiveRule, task: TaskFacts, reader: PersonFacts, notice: NoticeRecord, leavesAt: number) {
    const { planner, facts } = this.#source;
    const record = this.#stores.tasks.byId(task.id)!;
    const owner = task.ownerId === null ? null : (facts.people.get(task.ownerId)?.name ?? null);
    const reason = notice.why.map(whyText).join(' ');
    return composeMessage(rule.facts.tell.subject, rule.facts.tell.body, rule.facts.name, {
      task: {
        name: record.name,
        due: record.due && toMoment(record.due),
        start: record.start && toMoment(record.start),
        priority: record.priority,
        status: record.status,
        description: record.description
      },
      projectName: task.projectId === null ? null : (facts.projects.get(task.projectId)?.name ?? null),
      ownerName: owner,
      reader: { name: reader.name, zone: reader.zone },
      dueAt: planner.momentOf('due', task),
      startAt: planner.momentOf('start', task),
      leavesAt,
      inPlaceOf: this.#inPlaceOf(notice, reader, leavesAt),
      link: this.#linkOf(task.id),
      reason
    });
  }

  /** Whom a message was meant for, where somebody else reads it, and when they are back. */
  #inPlaceOf(notice: NoticeRecord, reader: PersonFacts, leavesAt: number): string | null {
    const intended = this.#source.facts.people.get(notice.recipientId);
    if (!intended || intended.id === reader.id) return null;
    const back = intended.leave.endOf(leavesAt);
    return Number.isNaN(back)
      ? intended.name
      : `${intended.name}, who is on leave until ${longMoment(back, intended.zone)} there`;
  }

  /** The place of a notice's lead in its rule; −1 when the rule or the lead is gone. */
  leadOrder({ ruleId, leadId }: NoticeRecord): number {
    return this.#live(ruleId)?.facts.leads.find(({ lead: { id } }) => id === leadId)?.order ?? -1;
  }

  #unring(notice: NoticeRecord, reason: string, now: number, added: WhyStep[] = []): void {
    this.#stores.notices.end(notice, 'unrung', reason, now, [...notice.why, ...added]);
  }

  #sameMoment(kept: NoticeRecord): WhyStep {
    const lead = this.#live(kept.ruleId)?.facts.leads.find(({ lead: { id } }) => id === kept.leadId);
    return { code: 'same-moment', params: { kept: lead ? leadWords(lead.lead) : 'a later one' } };
  }

  #live(ruleId: number): LiveRule | undefined {
    return this.#source.liveRules().find(({ facts }) => facts.id === ruleId);
  }
}

/**
 * Notices of one rule, step, task and recipient that leave at the same instant, the one that is kept first.
 * @param leadOrder the place of a notice's lead in its rule
 */
export function groupSameMoment(
  notices: readonly NoticeRecord[],
  leadOrder: (notice: NoticeRecord) => number
): NoticeRecord[][] {
  const groups = new Map<string, NoticeRecord[]>();
  for (const notice of notices) {
    const key = [
      notice.leavesAt,
      notice.ruleId,
      notice.step,
      notice.taskId,
      notice.recipientId,
      notice.snooze
    ].join('/');
    const group = groups.get(key);
    if (group) group.push(notice);
    else groups.set(key, [notice]);
  }
  const order = (notice: NoticeRecord) => ({ ...notice, leadOrder: leadOrder(notice) });
  return [...groups.values()].map((group) => group.sort((a, b) => compareForMerge(order(b), order(a))));
}
