import { composeMessage, type ComposedMessage } from '../../core/message/compose.ts';
import { composeGathered } from '../../core/message/gathered.ts';
import { limitsOf, outgoingOf } from '../../core/forecast/day-limits.ts';
import { capAndFold, type Outgoing } from '../../core/ring/cap.ts';
import { longMoment } from '../../core/time/format.ts';
import { compareForMerge } from '../../core/ring/merge.ts';
import { whyText } from '../../core/ring/why-text.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { leadWords } from '../../core/rule/read-back.ts';
import { watches } from '../../core/rule/watch.ts';
import { capped, unreachable } from '../../core/forecast/explain.ts';
import { isReachable, leadOf, type PersonFacts, type TaskFacts } from '../../core/forecast/facts.ts';
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

/** Why held notices that open together are one message. */
const HELD_WORDS = 'These came together, since they all waited for your working hours.';

/** One message about to leave, or notices about to be put off. */
export interface Departure {
  notices: readonly NoticeRecord[];
  leave: () => void;
}

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
    const task = this.#stores.tasks.factsOf(row.taskId);
    const lead = leadOf(rule?.facts, task, row.leadId);
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
   * The leaving instant of waiting notices has come. Those of one rule, task and recipient become one, Watch is tested again, and step 8
   * says which messages each reader gets; `leave` computes the words of one and queues it, or puts its notices off.
   * @param groups as `groupSameMoment` gives them
   */
  outgoing(groups: readonly NoticeRecord[][], now: number, machineNow: number): Departure[] {
    const places = new Map<NoticeRecord, number>();
    const byReader = new Map<string, NoticeRecord[]>();
    for (const [kept, ...others] of groups) {
      if (!kept) continue;
      for (const other of others) this.#unring(other, 'same moment', now, [this.#sameMoment(kept)]);
      if (!this.#isStillTrue(kept, now)) continue;
      places.set(kept, places.size);
      const key = `${kept.readerId}/${kept.leavesAt}`;
      byReader.set(key, [...(byReader.get(key) ?? []), kept]);
    }
    return [...byReader.values()]
      .flatMap((notices) => this.#departures(notices, now, machineNow))
      .sort((a, b) => places.get(a.notices[0]!)! - places.get(b.notices[0]!)!);
  }

  /** The messages of one reader at one instant: what was put off before goes first, together. */
  #departures(notices: readonly NoticeRecord[], now: number, machineNow: number): Departure[] {
    const reader = this.#source.facts.people.get(notices[0]!.readerId)!;
    const leavesAt = notices[0]!.leavesAt!;
    const folded = notices.filter(({ state }) => state === 'folded');
    const fresh = notices.filter(({ state }) => state !== 'folded');
    const day = reader.zone.dayOf(leavesAt);
    const sent =
      this.#stores.outbox.sentTo(reader.id, reader.zone.startOfDay(day), reader.zone.endOfDay(day)) +
      (folded.length > 0 ? 1 : 0);
    const messages = capAndFold(
      fresh.map((notice, i) => this.#outgoingOf(i, notice)),
      limitsOf(reader, new Map([[day, sent]]))
    );
    const departures: Departure[] = messages.map(({ at, how, ids }) => {
      const own = ids.map((i) => fresh[i]!);
      if (at > leavesAt) return { notices: own, leave: () => this.#putOff(own, reader, at) };
      if (how === 'gathered')
        return { notices: own, leave: () => this.#sendTogether(own, reader, HELD_WORDS, machineNow) };
      return { notices: own, leave: () => this.#send(own[0]!, reader, machineNow) };
    });
    if (folded.length === 0) return departures;
    const words = `Your day had reached the ${reader.dailyCap ?? ''} messages that you set as the most, so these come together.`;
    return [
      { notices: folded, leave: () => this.#sendTogether(folded, reader, words, machineNow) },
      ...departures
    ];
  }

  #outgoingOf(i: number, notice: NoticeRecord): Outgoing {
    const task = this.#stores.tasks.factsOf(notice.taskId)!;
    const dueAt = this.#source.planner.momentOf('due', task);
    return outgoingOf(
      i,
      { ...notice, leavesAt: notice.leavesAt! },
      this.#live(notice.ruleId)?.facts,
      task,
      dueAt
    );
  }

  /** Whether a notice is still to be sent; one that is not ends here. */
  #isStillTrue(notice: NoticeRecord, now: number): boolean {
    const rule = this.#live(notice.ruleId);
    const task = this.#stores.tasks.factsOf(notice.taskId);
    const reader = this.#source.facts.people.get(notice.readerId);
    if (!rule || !task || !reader || !watches(rule.facts.watch, task)) {
      this.#unring(notice, 'no longer true', now);
      return false;
    }
    if (isReachable(reader)) return true;
    this.#unring(notice, 'never reachable', now, [unreachable(reader)]);
    return false;
  }

  /** Above the day's most: kept for the next opening, where it leaves together with the others. */
  #putOff(notices: readonly NoticeRecord[], reader: PersonFacts, at: number): void {
    const { planner } = this.#source;
    for (const notice of notices) {
      const rule = this.#live(notice.ruleId)!;
      const task = this.#stores.tasks.factsOf(notice.taskId)!;
      const lead = leadOf(rule.facts, task, notice.leadId);
      const why: WhyStep[] = [...notice.why, capped(reader, notice.leavesAt!, at)];
      const lateBell = lead ? planner.isLate(lead, task, at, why) : notice.lateBell;
      this.#stores.notices.move(notice.id, {
        leavesAt: at,
        readerId: reader.id,
        state: 'folded',
        lateBell,
        why
      });
    }
  }

  #send(notice: NoticeRecord, reader: PersonFacts, machineNow: number): void {
    const rule = this.#live(notice.ruleId)!;
    const task = this.#stores.tasks.factsOf(notice.taskId)!;
    this.#queue(
      [notice],
      reader,
      this.#compose(rule, task, reader, notice, notice.leavesAt!),
      'mail',
      machineNow
    );
  }

  #sendTogether(
    notices: readonly NoticeRecord[],
    reader: PersonFacts,
    why: string,
    machineNow: number
  ): void {
    if (notices.length === 1) return this.#send(notices[0]!, reader, machineNow);
    const items = notices.map((notice) => {
      const rule = this.#live(notice.ruleId)!;
      const task = this.#stores.tasks.factsOf(notice.taskId)!;
      const { subject } = this.#compose(rule, task, reader, notice, notice.leavesAt!);
      const instead = this.#inPlaceOf(notice, reader, notice.leavesAt!);
      const reason = `${instead === null ? '' : `In place of ${instead}. `}${notice.why.map(whyText).join(' ')}`;
      return { subject, link: this.#linkOf(task.id), ruleName: rule.facts.name, reason };
    });
    this.#queue(notices, reader, composeGathered(reader.name, items, why), 'mail, gathered', machineNow);
  }

  #queue(
    notices: readonly NoticeRecord[],
    reader: PersonFacts,
    words: ComposedMessage,
    key: string,
    machineNow: number
  ): void {
    const [first] = notices;
    const messageId = messageIdOf(first!, key, this.#stores.settings.workspace()?.mailFromAddress ?? '');
    this.#stores.outbox.queue(
      { readerId: reader.id, messageId, leavesAt: first!.leavesAt!, ...words },
      notices.map(({ id }) => id),
      'mail',
      reader.email!.trim(),
      machineNow
    );
    for (const notice of notices) this.#stores.notices.end(notice, 'sending', null, null);
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
  leadOrder({ ruleId, leadId, taskId }: NoticeRecord): number {
    const rule = this.#live(ruleId)?.facts;
    return leadOf(rule, rule?.ofTask ? this.#stores.tasks.factsOf(taskId) : null, leadId)?.order ?? -1;
  }

  #unring(notice: NoticeRecord, reason: string, now: number, added: WhyStep[] = []): void {
    this.#stores.notices.end(notice, 'unrung', reason, now, [...notice.why, ...added]);
  }

  #sameMoment(kept: NoticeRecord): WhyStep {
    const task = this.#stores.tasks.factsOf(kept.taskId);
    const lead = leadOf(this.#live(kept.ruleId)?.facts, task, kept.leadId);
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
      notice.snooze,
      // What was put off was told apart already, before it was.
      notice.state === 'folded' ? notice.id : ''
    ].join('/');
    const group = groups.get(key);
    if (group) group.push(notice);
    else groups.set(key, [notice]);
  }
  const order = (notice: NoticeRecord) => ({ ...notice, leadOrder: leadOrder(notice) });
  return [...groups.values()].map((group) => group.sort((a, b) => compareForMerge(order(b), order(a))));
}
