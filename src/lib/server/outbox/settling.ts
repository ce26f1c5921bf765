import { retryWaitMs, type AttemptOutcome } from '../../core/delivery/retry.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { DeadEndRecord } from '../store/dead-ends.ts';
import type { LeasedDelivery } from '../store/outbox.ts';
import type { Stores } from '../store/all.ts';

/** The keeper of a rule hears of dead ends at most once in this time of the workspace clock. */
const TOLD_AGAIN_MS = 3_600_000;

/** Who hears of a delivery that has ended without being accepted. */
export type DeadEnd = (about: DeadEndRecord) => void;

/** Writes down how deliveries end, and what their notices come to by that; in the unit of whoever asks. */
export class Settling {
  readonly #stores: Stores;
  readonly #clock: WorkspaceClock;
  readonly #chance: () => number;
  #deadEnd: DeadEnd = () => {};

  /** @param chance a number from 0 to 1 */
  constructor(stores: Stores, clock: WorkspaceClock, chance: () => number) {
    this.#stores = stores;
    this.#clock = clock;
    this.#chance = chance;
  }

  /** Who hears of dead ends, in the transaction that records them. */
  attach(deadEnd: DeadEnd): void {
    this.#deadEnd = deadEnd;
  }

  /** One attempt has ended. Fenced by its number: where its lease was lost meanwhile nothing is written. */
  settle(delivery: LeasedDelivery, outcome: AttemptOutcome): void {
    const machineNow = this.#clock.machine.now();
    const { outbox } = this.#stores;
    const wait = waitAfter(outcome, delivery.attempt, this.#chance());
    const state = outcome.kind === 'accepted' ? 'accepted' : wait === null ? 'failed' : 'queued';
    const answer = outcome.kind === 'accepted' ? null : outcome.detail;
    const endedAt = state === 'queued' ? null : machineNow;
    const inDoubt = outcome.kind === 'try-later' && outcome.unknown === true;
    const held = outbox.settle(delivery.id, delivery.attempt, {
      ...{ state, answer, endedAt, inDoubt, kept: outcome.kind === 'accepted' && outcome.kept === true },
      nextAttemptAt: machineNow + (wait ?? 0)
    });
    if (!held || state === 'queued') return;
    this.#stores.messageWords.forgetSecret(delivery.id);
    if (state === 'accepted') this.#endNotices(delivery.id, 'sent', null);
    else this.#failed(delivery.id, answer ?? '');
  }

  /** What was taken has not arrived after all. */
  fail(id: number, reason: string): void {
    if (this.#stores.outbox.fail(id, reason, this.#clock.machine.now())) this.#failed(id, reason);
  }

  /** A delivery has ended without success: its notices have failed when no other way to their reader is open or was taken. */
  #failed(id: number, answer: string): void {
    const { deadEnds } = this.#stores;
    if (!deadEnds.hasOtherWay(id)) this.#endNotices(id, 'failed', answer);
    const about = deadEnds.of(id);
    if (!about || !deadEnds.mayTell(about.ruleId, this.#clock.now(), TOLD_AGAIN_MS)) return;
    this.#deadEnd({ ...about, answer });
  }

  #endNotices(deliveryId: number, state: 'sent' | 'failed', reason: string | null): void {
    for (const noticeId of this.#stores.outbox.noticesOf(deliveryId)) {
      const notice = this.#stores.notices.byId(noticeId)!;
      this.#stores.notices.end(notice, state, reason, this.#clock.now());
    }
  }
}

/** How long until the next attempt, or null when there is none: as long as we wait anyway, or longer where the other side asks for it. */
function waitAfter(outcome: AttemptOutcome, attempts: number, chance: number): number | null {
  if (outcome.kind !== 'try-later') return null;
  const own = retryWaitMs(attempts, chance);
  return own === null ? null : Math.max(own, outcome.afterMs ?? 0);
}
