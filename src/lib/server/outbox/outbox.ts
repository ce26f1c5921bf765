import { setMaxListeners } from 'node:events';
import { CHANNELS, type ChannelName } from '../../core/delivery/channel-name.ts';
import { retryWaitMs, type AttemptOutcome } from '../../core/delivery/retry.ts';
import { AttemptFailed, type Channel } from '../channel/channel.ts';
import { machineFaultWaitMs } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { DeadEndRecord } from '../store/dead-ends.ts';
import type { Answered } from '../../core/delivery/answer.ts';
import type { LeasedDelivery } from '../store/outbox.ts';
import type { Stores } from '../store/all.ts';
import type { Pace } from './pace.ts';
import { Retention } from './retention.ts';

/** Answers to one message that are kept: two programs that answer each other do not fill a disk. */
const MOST_ANSWERS = 50;
/** How long one attempt may take before its lease is lost. */
const LEASE_MS = 60_000;
/** Attempts of one channel under way at once: one that is slow keeps no other waiting. */
const BESIDE_EACH_OTHER = 8;
/** Longest sleep between looks at the queue. */
const LONGEST_SLEEP_MS = 30_000;
/** How long attempts under way are waited for when the application stops. */
const STOP_MS = 4_000;
/** The keeper of a rule hears of dead ends at most once in this time of the workspace clock. */
const TOLD_AGAIN_MS = 3_600_000;

/** Who hears of a delivery that has ended without being accepted. */
export type DeadEnd = (about: DeadEndRecord) => void;

/**
 * Delivers queued messages. A delivery is `queued`, then `leased` for one attempt, then `accepted`, `failed`, or
 * `queued` again with a longer wait. Each settlement is fenced by the attempt it belongs to; a lease that runs out, or
 * is cut off with the process, goes back to the queue marked in doubt.
 */
export class Outbox {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #clock: WorkspaceClock;
  readonly #channels: ReadonlyMap<ChannelName, Channel>;
  readonly #pace: Pace;
  readonly #retention: Retention;
  readonly #chance: () => number;
  readonly #onFault: (error: unknown) => void;
  /** How many beats in a row have failed. */
  #failures = 0;
  #timer: unknown = null;
  #started = false;
  #draining: Promise<void> | null = null;
  #stopping = false;
  /** Attempts whose end is not written down yet. */
  readonly #ended = new Map<ChannelName, EndedAttempt[]>();
  /** When a channel that has had its most for a minute takes more. */
  readonly #shutUntil = new Map<ChannelName, number>();
  /** Ends the attempts under way. */
  #cutOff = newCutOff();
  #deadEnd: DeadEnd = () => {};
  #onAttempt: (channel: string, end: AttemptOutcome['kind'] | 'cut off') => void = () => {};

  constructor(
    work: UnitOfWork,
    stores: Stores,
    clock: WorkspaceClock,
    channels: readonly Channel[],
    pace: Pace,
    chance: () => number,
    onFault: (error: unknown) => void
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#clock = clock;
    this.#channels = new Map(channels.map((channel) => [channel.name, channel]));
    this.#pace = pace;
    this.#retention = new Retention(work, stores.messageWords, clock);
    this.#chance = chance;
    this.#onFault = onFault;
  }

  /** Who hears of dead ends, in the transaction that records them. */
  attach(deadEnd: DeadEnd): void {
    this.#deadEnd = deadEnd;
  }

  /** Who counts attempts and how they end. */
  attachMeter(onAttempt: (channel: string, end: AttemptOutcome['kind'] | 'cut off') => void): void {
    this.#onAttempt = onAttempt;
  }

  start(): void {
    if (this.#started) return;
    this.#started = true;
    this.#stopping = false;
    this.#cutOff = newCutOff();
    this.#work.run(() => this.#stores.outbox.releaseAll());
    this.#schedule(0);
  }

  /** Makes no more attempts, waits a few seconds for those under way, and gives back what has not ended by then: in doubt. */
  async stop(): Promise<void> {
    this.#started = false;
    this.#stopping = true;
    const { machine } = this.#clock;
    machine.clearTimeout(this.#timer);
    const cut = machine.setTimeout(() => this.#cutOff.abort(), STOP_MS);
    await this.#draining;
    machine.clearTimeout(cut);
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
    await Promise.all(CHANNELS.map((channel) => this.#drainChannel(channel)));
    await this.#retention.keep(() => this.#stopping);
  }

  /** Keeps attempts under way until none is left to be made. What has ended is settled in the transaction that leases the next. */
  async #drainChannel(channel: ChannelName): Promise<void> {
    const underWay = new Set<Promise<void>>();
    const ended = this.#ended.get(channel) ?? [];
    this.#ended.set(channel, ended);
    try {
      for (;;) {
        const leased = this.#turn(channel, ended, BESIDE_EACH_OTHER - underWay.size);
        ended.length = 0;
        for (const delivery of leased) {
          const attempt = this.#attempt(delivery).then((outcome) => {
            underWay.delete(attempt);
            ended.push({ delivery, outcome });
          });
          underWay.add(attempt);
        }
        if (underWay.size === 0) return;
        await Promise.race(underWay);
        // Others that end in the same moment are settled together with it.
        await new Promise((resolve) => setImmediate(resolve));
      }
    } finally {
      // Where nothing can be written for now, how they ended is kept in mind until it can.
      await Promise.all(underWay);
    }
  }

  /** Settles what has ended and leases what is next, in one transaction. */
  #turn(channel: ChannelName, ended: readonly EndedAttempt[], free: number): LeasedDelivery[] {
    return this.#work.run(() => {
      for (const { delivery, outcome } of ended) {
        if (outcome) this.#settle(delivery, outcome);
        // Whether the other side has it is not known: the next attempt may be a repeat.
        else this.#stores.outbox.giveBack(delivery.id, delivery.attempt);
      }
      return this.#stopping ? [] : this.#claim(channel, free);
    });
  }

  #claim(channel: ChannelName, free: number): LeasedDelivery[] {
    const now = this.#clock.machine.now();
    const { outbox } = this.#stores;
    outbox.releaseExpired(now);
    const leased: LeasedDelivery[] = [];
    this.#shutUntil.delete(channel);
    while (leased.length < free) {
      const opensAt = this.#pace.opensAt(channel, now);
      if (opensAt > now) {
        this.#shutUntil.set(channel, opensAt);
        break;
      }
      const [next] = outbox.claimable(channel, now, 1);
      if (!next) break;
      const addressOpensAt = this.#pace.addressOpensAt(channel, next.address, now);
      if (addressOpensAt > now) {
        outbox.putOff(next.id, addressOpensAt);
        continue;
      }
      this.#pace.count(channel, next.address, now);
      const delivery = outbox.lease(next.id, now + LEASE_MS);
      if (delivery) leased.push(delivery);
    }
    return leased;
  }

  async #attempt(delivery: LeasedDelivery): Promise<AttemptOutcome | null> {
    const outcome = await this.#unlessCutOff(this.#send(delivery));
    this.#onAttempt(delivery.channel, outcome?.kind ?? 'cut off');
    return outcome;
  }

  /** @returns null when the application stops before the attempt has ended */
  async #unlessCutOff(attempt: Promise<AttemptOutcome>): Promise<AttemptOutcome | null> {
    const { signal } = this.#cutOff;
    let onAbort = () => {};
    const cutOff = new Promise<null>((resolve) => (onAbort = () => resolve(null)));
    signal.addEventListener('abort', onAbort, { once: true });
    try {
      return await Promise.race([attempt, cutOff]);
    } finally {
      signal.removeEventListener('abort', onAbort);
    }
  }

  async #send(delivery: LeasedDelivery): Promise<AttemptOutcome> {
    const channel = this.#channels.get(delivery.channel);
    if (!channel) return { kind: 'refused', detail: `The channel ${delivery.channel} is not set up.` };
    try {
      await channel.send(delivery, AbortSignal.timeout(LEASE_MS - 5_000));
      return { kind: 'accepted' };
    } catch (error) {
      if (error instanceof AttemptFailed) return error.outcome;
      return { kind: 'try-later', detail: error instanceof Error ? error.message : String(error) };
    }
  }

  #settle(delivery: LeasedDelivery, outcome: AttemptOutcome): void {
    const machineNow = this.#clock.machine.now();
    const { outbox } = this.#stores;
    const wait = waitAfter(outcome, delivery.attempt, this.#chance());
    const state = outcome.kind === 'accepted' ? 'accepted' : wait === null ? 'failed' : 'queued';
    const answer = outcome.kind === 'accepted' ? null : outcome.detail;
    const endedAt = state === 'queued' ? null : machineNow;
    const inDoubt = outcome.kind === 'try-later' && outcome.unknown === true;
    const held = outbox.settle(delivery.id, delivery.attempt, {
      ...{ state, answer, endedAt, inDoubt },
      nextAttemptAt: machineNow + (wait ?? 0)
    });
    if (!held || state === 'queued') return;
    this.#stores.messageWords.forgetSecret(delivery.id);
    if (state === 'accepted') this.#endNotices(delivery.id, 'sent', null);
    else this.#failed(delivery.id, answer ?? '');
  }

  /**
   * Mail that was taken came back: its delivery has failed after all, and the address is marked.
   * @returns false when no such delivery is known
   */
  returned(messageId: string, address: string, reason: string): boolean {
    return this.#work.run(() => {
      const { outbox, deadEnds } = this.#stores;
      const id = deadEnds.byMessage('mail', messageId, address);
      if (id === null) return false;
      deadEnds.mark(address, reason, this.#clock.now());
      if (outbox.fail(id, reason, this.#clock.machine.now())) this.#failed(id, reason);
      return true;
    });
  }

  /** Somebody, or their mail program, has answered a message: it is kept beside it, and never acted upon. */
  answered({ about, ...reply }: Answered): void {
    this.#work.run(() => {
      const { replies } = this.#stores;
      const id = replies.messageOf(about);
      if (id === null || replies.countOf(id) >= MOST_ANSWERS) return;
      replies.add(id, { ...reply, at: this.#clock.now() });
    });
  }

  /**
   * A gateway says what became of a message that it had taken.
   * @param reason why it did not arrive; null where it did
   * @returns false when no such delivery is known
   */
  receipt(channel: ChannelName, messageId: string, address: string, reason: string | null): boolean {
    return this.#work.run(() => {
      const { outbox, deadEnds } = this.#stores;
      const id = deadEnds.byMessage(channel, messageId, address);
      if (id === null) return false;
      if (reason === null) outbox.arrived(id, this.#clock.now());
      else if (outbox.fail(id, reason, this.#clock.machine.now())) this.#failed(id, reason);
      return true;
    });
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

  #schedule(ms: number): void {
    const { machine } = this.#clock;
    machine.clearTimeout(this.#timer);
    this.#timer = machine.setTimeout(() => void this.#beat(), ms);
  }

  async #beat(): Promise<void> {
    try {
      await this.drain();
      this.#failures = 0;
    } catch (error) {
      this.#failures++;
      this.#onFault(error);
    }
    if (!this.#started) return;
    if (this.#failures > 0) return this.#schedule(machineFaultWaitMs(this.#failures));
    const now = this.#clock.machine.now();
    const waits = CHANNELS.flatMap((channel) => {
      const next = this.#stores.outbox.nextAttemptAt(channel);
      return next === null ? [] : Math.max(next, this.#shutUntil.get(channel) ?? 0) - now;
    });
    this.#schedule(Math.max(1, Math.min(...waits, LONGEST_SLEEP_MS)));
  }
}

/** Every attempt under way listens to it. */
function newCutOff(): AbortController {
  const cutOff = new AbortController();
  setMaxListeners(2 * CHANNELS.length * BESIDE_EACH_OTHER, cutOff.signal);
  return cutOff;
}

/** An attempt that has ended; its outcome is null when it was cut off. */
interface EndedAttempt {
  delivery: LeasedDelivery;
  outcome: AttemptOutcome | null;
}

/** How long until the next attempt, or null when there is none: as long as we wait anyway, or longer where the other side asks for it. */
function waitAfter(outcome: AttemptOutcome, attempts: number, chance: number): number | null {
  if (outcome.kind !== 'try-later') return null;
  const own = retryWaitMs(attempts, chance);
  return own === null ? null : Math.max(own, outcome.afterMs ?? 0);
}
