import { groupBy } from '../../group-by.ts';
import { capAndFold } from '../../ring/cap.ts';
import { compareForMerge } from '../../ring/merge.ts';
import type { InstantMs } from '../../time/zone.ts';
import { isAlreadyTold } from '../decide/already-told.ts';
import { bundle } from '../decide/bundle.ts';
import { limitsOf, outgoingOf } from '../decide/day-limits.ts';
import { noticeKind } from '../decide/notice-kind.ts';
import { withoutOwn } from '../decide/own-changes.ts';
import { quietReason } from '../decide/quiet.ts';
import { ifPutOff, isLateBell } from '../decide/settle.ts';
import type { PersonFacts } from '../facts/facts.ts';
import type { NoticeAhead } from './simulated-task.ts';
import type { SimulatedWaiting } from './simulated-waiting.ts';
import type { ToldBefore } from './simulated.ts';
import type { SimulationPort } from './simulation-port.ts';
import { NO_DUE, type SimulationQueue } from './simulation-queue.ts';

/** What leaves in a forecast at an instant: what is merged, still true, and put off by the day of its reader. */
export class SimulatedLeaving {
  readonly #simulation: SimulationPort;
  readonly #queue: SimulationQueue;
  readonly #waiting: SimulatedWaiting;
  readonly #before: { now: InstantMs; sentToday?: ((personId: number) => number) | undefined };
  /** Messages by reader and their day. */
  readonly #sent = new Map<string, number>();

  /** @param before when the forecast begins, and what has left by then */
  constructor(
    simulation: SimulationPort,
    queue: SimulationQueue,
    waiting: SimulatedWaiting,
    before: { now: InstantMs; sentToday?: ((personId: number) => number) | undefined }
  ) {
    this.#simulation = simulation;
    this.#queue = queue;
    this.#waiting = waiting;
    this.#before = before;
  }

  /** Everything that leaves at an instant, as the engine sends it. */
  leave(at: InstantMs): void {
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
      this.#send(this.#simulation.planner.facts.people.get(readerId)!, notices, at);
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
      if (beaten) this.#simulation.unring(ahead, 'same moment');
      return !beaten;
    });
  }

  /** What cannot be tested does not leave. */
  #isStillTold(ahead: NoticeAhead): boolean {
    let told = false;
    this.#simulation.attempt(ahead.rule.id, ahead.notice.taskId, () => (told = this.#isStillTrue(ahead)));
    if (!told && ahead.notice.unrung === null && !Number.isNaN(ahead.notice.leavesAt))
      this.#simulation.unring(ahead, 'faulty');
    return told;
  }

  #isStillTrue(ahead: NoticeAhead): boolean {
    const { rule, state, own, notice, regardless, tell } = ahead;
    if (notice.folded && notice.unrung === null && tell.step.force !== null) return true;
    if (!regardless) {
      const { task, details } = withoutOwn(
        state.task,
        this.#simulation.planner.facts.detailsOf(state.task.id),
        own
      );
      const asked = own.length > 0 ? details : null;
      if (
        !this.#simulation.planner.watches(rule, task, this.#simulation.now, asked) ||
        this.#simulation.planner.stopped(rule, task, this.#simulation.now, asked)
      ) {
        this.#simulation.unring(ahead, 'no longer true');
        return false;
      }
    }
    const still = ahead.snoozed
      ? null
      : this.#simulation.planner.ladders.stillAt(ahead.lead, state.task, this.#simulation.now);
    if (still?.why === 'waits for others') {
      this.#waiting.letWait(ahead);
      return false;
    }
    if (still) {
      this.#simulation.unring(ahead, 'no longer true');
      return false;
    }
    const quiet = ahead.snoozed
      ? null
      : quietReason(this.#simulation.planner, this.#simulation.tellingOf(ahead), this.#simulation.now);
    if (quiet) {
      this.#simulation.unring(ahead, quiet);
      return false;
    }
    if (this.#simulation.hasHadEnough(ahead, notice.recipientId)) {
      this.#simulation.unring(ahead, 'limit reached');
      return false;
    }
    if (!notice.folded && state.told.some((told) => isAlreadyTold(this.#toldBy(ahead), told))) {
      this.#simulation.unring(ahead, 'already told');
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
    for (const ahead of foldedNow) this.#simulation.left(ahead, this.#toldBy(ahead));
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
        for (const i of ids)
          for (const ahead of messages[i]!) this.#simulation.left(ahead, this.#toldBy(ahead));
        continue;
      }
      for (const i of ids) this.#putOffMessage(messages[i]!, key, to);
    }
  }

  /** Step 9 for a message that step 8 would put off: it leaves now, by itself, waits, or is dropped. */
  #putOffMessage(own: readonly NoticeAhead[], key: string, to: InstantMs): void {
    if (own.some((ahead) => this.#ifPutOff(ahead, to) === 'leaves now')) {
      this.#count(key);
      for (const ahead of own) this.#simulation.left(ahead, this.#toldBy(ahead));
      return;
    }
    for (const ahead of own)
      if (this.#ifPutOff(ahead, to) === 'is dropped') this.#simulation.unring(ahead, 'too late');
      else this.#putOff(ahead, to);
  }

  #ifPutOff(ahead: NoticeAhead, to: InstantMs): ReturnType<typeof ifPutOff> {
    return ifPutOff(this.#simulation.planner, this.#simulation.tellingOf(ahead), ahead.notice.ringAt, to);
  }

  #sentOn(key: string, reader: PersonFacts, day: number): number {
    const before =
      day === reader.zone.dayOf(this.#before.now) ? (this.#before.sentToday?.(reader.id) ?? 0) : 0;
    return before + (this.#sent.get(key) ?? 0);
  }

  #count(key: string): void {
    this.#sent.set(key, (this.#sent.get(key) ?? 0) + 1);
  }

  #putOff(ahead: NoticeAhead, to: InstantMs): void {
    const { notice } = ahead;
    notice.folded = true;
    notice.leavesAt = to;
    notice.lateBell = isLateBell(
      this.#simulation.planner,
      this.#simulation.tellingOf(ahead),
      notice.ringAt,
      to
    );
    this.#simulation.queueNotice(ahead);
  }
}
