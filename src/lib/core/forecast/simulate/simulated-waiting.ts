import { nextOpening } from '../../ring/hold.ts';
import { madeUp } from '../decide/made-up.ts';
import { newlyNamed, type Told } from '../facts/recipients.ts';
import { isLateBell } from '../decide/settle.ts';
import { keyOf } from './simulation-queue.ts';
import type { NoticeAhead } from './simulated-task.ts';
import type { SimulationPort } from './simulation-port.ts';

/** Notices of a forecast that wait, when their task changes: what a rule does to it, does to them what the engine would. */
export class SimulatedWaiting {
  readonly #simulation: SimulationPort;

  constructor(simulation: SimulationPort) {
    this.#simulation = simulation;
  }

  /** It waits without an end while its task waits for others. */
  letWait({ notice }: NoticeAhead): void {
    this.#simulation.offTheWay(notice);
    Object.assign(notice, { leavesAt: NaN, folded: false });
  }

  /** A notice whose task has changed goes on, leaves at the first opening, or is told to somebody else. */
  review(ahead: NoticeAhead): void {
    const { tell, lead, state, notice, snoozed } = ahead;
    // A snooze is one's own; and whoever was asked is asked, whoever the task comes to.
    if (snoozed) return;
    if (tell.step.to.length > 0) {
      const told = this.#toldNow(ahead);
      const mine = told.find(({ person }) => person.id === notice.recipientId);
      if (!mine) this.#passOn(ahead);
      this.#tellInstead(ahead, told);
      if (!mine) return;
    }
    const { planner, now } = this.#simulation;
    if (Number.isFinite(notice.leavesAt) || planner.ladders.stillAt(lead, state.task, now)) return;
    const { recipient } = this.#simulation.tellingOf(ahead);
    const opening = nextOpening(now, planner.reach(tell, recipient), recipient.calendar.spans);
    const { at, readerId } = planner.leaves(tell, recipient, opening);
    Object.assign(notice, { leavesAt: at, readerId, unrung: Number.isNaN(at) ? 'never reachable' : null });
    this.#simulation.queueNotice(ahead);
  }

  #toldNow({ rule, tell, lead, state, actorId }: NoticeAhead): readonly Told[] {
    const { audience } = this.#simulation.planner;
    if (!rule.ofTask) return audience.told(rule, tell, state.task, lead.lead.id, actorId);
    return audience.recipients(rule, tell, state.task).map((person) => ({ person, as: 'to', named: [] }));
  }

  #isToldLater({ rule, tell, state, notice }: NoticeAhead, recipientId: number): boolean {
    return [...state.waiting].some(
      (other) =>
        other.rule === rule &&
        other.tell === tell &&
        other.notice.recipientId === recipientId &&
        other.notice.ringAt > notice.ringAt
    );
  }

  #passOn(ahead: NoticeAhead): void {
    const { rule, state, notice } = ahead;
    ahead.withdrawn = true;
    state.done(ahead);
    state.passOn(rule, keyOf(ahead));
    if (Number.isFinite(notice.leavesAt)) this.#simulation.offTheWay(notice);
  }

  /** Whoever has come to be a recipient of the Tell in somebody's place is told, once. */
  #tellInstead(ahead: NoticeAhead, told: readonly Told[]): void {
    const { rule, state, notice } = ahead;
    const { planner, now } = this.#simulation;
    if (rule.past.newRecipient === 'do not ring') return;
    const gone = { recipientId: notice.recipientId, named: ahead.named };
    for (const { person: recipient, named } of newlyNamed(gone, told)) {
      const key = { ...keyOf(ahead), recipientId: recipient.id };
      if (state.occupied(rule, key) || state.hasRung(rule, key)) continue;
      // What gave it to them has told them, as “assigned” does.
      if (this.#isToldLater(ahead, recipient.id)) continue;
      const of = { ...this.#simulation.tellingOf(ahead), recipient };
      const owed = { ringAt: notice.ringAt, cause: 'new recipient', actorId: null } as const;
      const made = madeUp(planner, of, owed, now);
      const leavesAt = made.leavesAt ?? NaN;
      const lateBell = made.leavesAt !== null && isLateBell(planner, of, notice.ringAt, leavesAt);
      const ends = { leavesAt, lateBell, unrung: made.reason, noticeId: null, folded: false };
      this.#simulation.queueNotice({
        ...{ ...ahead, withdrawn: false, named, sequence: undefined },
        notice: { ...notice, recipientId: recipient.id, readerId: made.readerId, ...ends }
      });
    }
  }
}
