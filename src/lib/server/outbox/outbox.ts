import { decideAttempt, retryWaitMs, type AttemptOutcome } from '../../core/delivery/retry.ts';
import type { Channel } from '../channel/channel.ts';
import type { Db } from '../db/open.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { LeasedDelivery } from '../store/outbox.ts';
import type { Stores } from '../store/all.ts';

/** How long one attempt may take before its lease is lost. */
const LEASE_MS = 60_000;
/** Attempts under way at once. */
const BESIDE_EACH_OTHER = 8;
/** Longest sleep between looks at the queue. */
const LONGEST_SLEEP_MS = 30_000;

/**
 * Delivers queued messages. A delivery is `queued`, then `leased` for one attempt, then `accepted`, `failed`, or
 * `queued` again with a longer wait. Each settlement is fenced by the attempt it belongs to; a lease that runs out, or
 * is cut off with the process, goes back to the queue marked in doubt.
 */
export class Outbox {
  readonly #db: Db;
  readonly #stores: Stores;
  readonly #clock: WorkspaceClock;
  readonly #channels: ReadonlyMap<string, Channel>;
  readonly #chance: () => number;
  readonly #onFault: (error: unknown) => void;
  #timer: unknown = null;
  #started = false;
  #draining: Promise<void> | null = null;

  constructor(
    db: Db,
    stores: Stores,
    clock: WorkspaceClock,
    channels: readonly Channel[],
    chance: () => number,
    onFault: (error: unknown) => void
  ) {
    this.#db = db;
    this.#stores = stores;
    this.#clock = clock;
    this.#channels = new Map(channels.map((channel) => [channel.name, channel]));
    this.#chance = chance;
    this.#onFault = onFault;
  }

  start(): void {
    this.#started = true;
    this.#db.transaction(() => this.#stores.outbox.releaseAll()).immediate();
    this.#schedule(0);
  }

  async stop(): Promise<void> {
    this.#started = false;
    this.#clock.machine.clearTimeout(this.#timer);
    await this.#draining;
    for (const channel of this.#channels.values()) channel.close();
  }

  /** Something was queued: looks soon. */
  wake(): void {
    if (this.#started) this.#schedule(0);
  }

  /** Makes every delivery that is due now, once; those that must wait for another try stay queued. */
  async drain(): Promise<void> {
    while (this.#draining) await this.#draining;
    this.#draining = this.#drainAll();
    try {
      await this.#draining;
    } finally {
      this.#draining = null;
    }
  }

  async #drainAll(): Promise<void> {
    for (;;) {
      const leased = this.#claim();
      if (leased.length === 0) return;
      await Promise.all(leased.map((delivery) => this.#attempt(delivery)));
    }
  }

  #claim(): LeasedDelivery[] {
    const now = this.#clock.machine.now();
    const { outbox } = this.#stores;
    return this.#db
      .transaction(() => {
        outbox.releaseExpired(now);
        return outbox
          .claimable(now, BESIDE_EACH_OTHER)
          .flatMap((id) => outbox.lease(id, now + LEASE_MS) ?? []);
      })
      .immediate();
  }

  async #attempt(delivery: LeasedDelivery): Promise<void> {
    const outcome = await this.#send(delivery);
    this.#db.transaction(() => this.#settle(delivery, outcome)).immediate();
  }

  async #send(delivery: LeasedDelivery): Promise<AttemptOutcome> {
    const channel = this.#channels.get(delivery.channel);
    if (!channel) return { kind: 'refused', detail: `The channel ${delivery.channel} is not set up.` };
    try {
      await channel.send(delivery, AbortSignal.timeout(LEASE_MS - 5_000));
      return { kind: 'accepted' };
    } catch (error) {
      const { responseCode, message } = error as { responseCode?: number; message: string };
      return decideAttempt(responseCode ?? null, message);
    }
  }

  #settle(delivery: LeasedDelivery, outcome: AttemptOutcome): void {
    const machineNow = this.#clock.machine.now();
    const { outbox } = this.#stores;
    const wait = outcome.kind === 'try-later' ? retryWaitMs(delivery.attempt, this.#chance()) : null;
    const state = outcome.kind === 'accepted' ? 'accepted' : wait === null ? 'failed' : 'queued';
    const answer = outcome.kind === 'accepted' ? null : outcome.detail;
    const endedAt = state === 'queued' ? null : machineNow;
    const held = outbox.settle(
      delivery.id,
      delivery.attempt,
      state,
      machineNow + (wait ?? 0),
      answer,
      endedAt
    );
    if (!held || state === 'queued') return;
    outbox.forgetSecret(delivery.id);
    for (const noticeId of outbox.noticesOf(delivery.id)) {
      const notice = this.#stores.notices.byId(noticeId)!;
      if (state === 'accepted') this.#stores.notices.end(notice, 'sent', null, this.#clock.now());
      else this.#stores.notices.end(notice, 'failed', answer, this.#clock.now());
    }
  }

  #schedule(ms: number): void {
    const { machine } = this.#clock;
    machine.clearTimeout(this.#timer);
    this.#timer = machine.setTimeout(() => void this.#beat(), ms);
  }

  async #beat(): Promise<void> {
    try {
      await this.drain();
    } catch (error) {
      this.#onFault(error);
    }
    if (!this.#started) return;
    const next = this.#stores.outbox.nextAttemptAt();
    const wait = next === null ? LONGEST_SLEEP_MS : next - this.#clock.machine.now();
    this.#schedule(Math.max(1, Math.min(wait, LONGEST_SLEEP_MS)));
  }
}
