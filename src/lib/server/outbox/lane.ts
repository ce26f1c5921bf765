import { setMaxListeners } from 'node:events';
import { setTimeout as wait } from 'node:timers/promises';
import type { ChannelName } from '../../core/channel/channels.ts';
import type { AttemptOutcome } from '../../core/delivery/retry.ts';
import { AttemptFailed, type Channel } from '../channel/channel.ts';
import { machineFaultWaitMs } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { MachineClock } from '../engine/clock.ts';
import type { LeasedDelivery, OutboxStore } from '../store/outbox.ts';
import type { Pace } from './pace.ts';
import type { Settling } from './settling.ts';

/** An attempt has so long in all, whatever the other side does meanwhile. */
const ATTEMPT_MS = 55_000;
/** How long a channel may take to break an attempt off once it is told to. */
const BREAK_OFF_MS = 500;
/** Its lease is longer than both, so that nobody else takes it before its end is written down. */
const LEASE_MS = 60_000;
/** Attempts under way at once. */
const AT_ONCE = 8;
/** One that takes longer than this keeps no place from another. */
const SLOW_MS = 3_000;
/** Slow or not, so many. */
const MOST_AT_ONCE = 32;
/** To one address at once: what somebody gets comes in its order. */
const AT_ONE_ADDRESS = 1;
/** Longest sleep between looks at the queue. */
const LONGEST_SLEEP_MS = 30_000;
/** Something could be sent, and for so long nothing has begun or ended. */
const STANDS_MS = 2 * 60_000;

/** What a lane works with. */
export interface LaneTools {
  work: UnitOfWork;
  store: OutboxStore;
  machine: MachineClock;
  pace: Pace;
  settling: Settling;
  onFault: (error: unknown) => void;
  /** Hears how an attempt ended; null where it was cut off. */
  onAttempt: (channel: ChannelName, outcome: AttemptOutcome | null) => void;
}

interface UnderWay {
  address: string;
  /** On the machine's steady clock. */
  since: number;
}

/** An attempt that has ended; its outcome is null when it was cut off. */
interface Ended {
  delivery: LeasedDelivery;
  outcome: AttemptOutcome | null;
}

interface Drainer {
  /** Attempts that take longer are not waited for. */
  patienceMs: number;
  resolve: () => void;
  reject: (error: unknown) => void;
}

/**
 * The deliveries of one channel: leased for one attempt each, several at once, and settled as they end. No lane waits for another, no address
 * takes all places, and an attempt that does not end is ended.
 */
export class Lane {
  readonly #channel: Channel;
  readonly #tools: LaneTools;
  readonly #underWay = new Map<number, UnderWay>();
  /** Ends that are not written down yet: kept in mind until they can be. */
  #ended: Ended[] = [];
  #drainers: Drainer[] = [];
  #timer: unknown = null;
  #isSoon = false;
  #started = false;
  #stopping = false;
  /** How many turns in a row could not be written down. */
  #failures = 0;
  /** Something could be tried, but for a free place. */
  #blocked = false;
  #shutUntil = 0;
  #lastMove: number;
  #cutOff = newCutOff();

  constructor(channel: Channel, tools: LaneTools) {
    this.#channel = channel;
    this.#tools = tools;
    this.#lastMove = tools.machine.steadyMs();
  }

  start(): void {
    this.#started = true;
    this.#stopping = false;
    this.#cutOff = newCutOff();
    this.#lastMove = this.#tools.machine.steadyMs();
    this.#soon();
  }

  /** Something was queued: looks soon. */
  wake(): void {
    if (this.#started) this.#soon();
  }

  /** Why it does not go on; null where it does. */
  get standing(): 'cannot write' | 'nothing moves' | null {
    if (this.#failures > 0) return 'cannot write';
    const still = this.#tools.machine.steadyMs() - this.#lastMove;
    return this.#started && this.#blocked && still > STANDS_MS ? 'nothing moves' : null;
  }

  /**
   * Makes every delivery that is due now, once.
   * @param patienceMs attempts that have taken longer are not waited for
   * @throws what keeps it from being written down
   */
  drain(patienceMs = Infinity): Promise<void> {
    return new Promise((resolve, reject) => {
      this.#drainers.push({ patienceMs, resolve, reject });
      this.#turn();
    });
  }

  /** Makes no more attempts, waits for those under way, and gives back what has not ended by then: in doubt. @param withinMs how long it waits */
  async stop(withinMs: number): Promise<void> {
    const { machine } = this.#tools;
    this.#started = false;
    this.#stopping = true;
    machine.clearTimeout(this.#timer);
    const cut = machine.setTimeout(() => this.#cutOff.abort(), withinMs);
    try {
      await this.drain();
    } finally {
      machine.clearTimeout(cut);
      this.#channel.close();
    }
  }

  /** Many that end at one moment are settled together. */
  #soon(): void {
    if (this.#isSoon) return;
    this.#isSoon = true;
    setImmediate(() => {
      this.#isSoon = false;
      this.#turn();
    });
  }

  /** Settles what has ended, and makes the attempts that can be made. */
  #turn(): void {
    const { work, machine } = this.#tools;
    machine.clearTimeout(this.#timer);
    if (work.isLent) return void work.returned().then(() => this.#turn());
    let leased: LeasedDelivery[];
    try {
      leased = work.run(() => this.#settleAndLease());
      this.#ended = [];
      this.#failures = 0;
    } catch (error) {
      this.#failed(error);
      return;
    }
    for (const delivery of leased) this.#begin(delivery);
    this.#tellDrainers();
    this.#schedule();
  }

  #failed(error: unknown): void {
    this.#failures++;
    this.#tools.onFault(error);
    for (const { reject } of this.#drainers.splice(0)) reject(error);
    if (this.#started) this.#lookIn(machineFaultWaitMs(this.#failures));
  }

  #settleAndLease(): LeasedDelivery[] {
    const { settling, store } = this.#tools;
    for (const { delivery, outcome } of this.#ended) {
      if (outcome) settling.settle(delivery, outcome);
      // Whether the other side has it is not known: the next attempt may be a repeat.
      else store.giveBack(delivery.id, delivery.attempt);
    }
    return this.#stopping ? [] : this.#lease();
  }

  #lease(): LeasedDelivery[] {
    const { store, machine, pace } = this.#tools;
    const { name } = this.#channel;
    const now = machine.now();
    store.releaseExpired(now);
    const leased: LeasedDelivery[] = [];
    const addresses = new Map<string, number>();
    for (const { address } of this.#underWay.values())
      addresses.set(address, (addresses.get(address) ?? 0) + 1);
    this.#blocked = false;
    this.#shutUntil = 0;
    for (let free = this.#places(); ;) {
      const opensAt = pace.opensAt(name, now);
      if (opensAt > now) {
        this.#shutUntil = opensAt;
        break;
      }
      const full = [...addresses].flatMap(([address, count]) => (count < AT_ONE_ADDRESS ? [] : address));
      const [next] = free > 0 ? store.claimable(name, now, full) : [];
      if (!next) {
        this.#blocked = free <= 0 || full.length > 0;
        break;
      }
      const addressOpensAt = pace.addressOpensAt(name, next.address, now);
      if (addressOpensAt > now) {
        store.putOff(next.id, addressOpensAt);
        continue;
      }
      pace.count(name, next.address, now);
      const delivery = store.lease(next.id, now + LEASE_MS);
      if (!delivery) continue;
      leased.push(delivery);
      addresses.set(delivery.address, (addresses.get(delivery.address) ?? 0) + 1);
      free--;
    }
    return leased;
  }

  #places(): number {
    const late = this.#tools.machine.steadyMs() - SLOW_MS;
    const quick = [...this.#underWay.values()].filter(({ since }) => since > late).length;
    return Math.min(AT_ONCE - quick, MOST_AT_ONCE - this.#underWay.size);
  }

  #begin(delivery: LeasedDelivery): void {
    const { machine, onAttempt } = this.#tools;
    this.#lastMove = machine.steadyMs();
    this.#underWay.set(delivery.id, { address: delivery.address, since: this.#lastMove });
    void this.#attempt(delivery).then((outcome) => {
      this.#underWay.delete(delivery.id);
      this.#lastMove = machine.steadyMs();
      this.#ended.push({ delivery, outcome });
      onAttempt(this.#channel.name, outcome);
      this.#soon();
    });
  }

  /** Never rejects. @returns null when the application stops before the attempt has ended */
  async #attempt(delivery: LeasedDelivery): Promise<AttemptOutcome | null> {
    const cutOff = this.#cutOff.signal;
    const over = new AbortController();
    const deadline = setTimeout(() => over.abort(), ATTEMPT_MS);
    const giveUp = () => over.abort();
    cutOff.addEventListener('abort', giveUp, { once: true });
    if (cutOff.aborted) giveUp();
    try {
      const outcome = await Promise.race([this.#send(delivery, over.signal), brokenOff(over.signal)]);
      return cutOff.aborted && outcome.kind !== 'accepted' ? null : outcome;
    } finally {
      clearTimeout(deadline);
      cutOff.removeEventListener('abort', giveUp);
    }
  }

  async #send(delivery: LeasedDelivery, signal: AbortSignal): Promise<AttemptOutcome> {
    try {
      const how = await this.#channel.send(delivery, signal);
      return how === 'kept' ? { kind: 'accepted', kept: true } : { kind: 'accepted' };
    } catch (error) {
      if (error instanceof AttemptFailed) return error.outcome;
      return { kind: 'try-later', detail: error instanceof Error ? error.message : String(error) };
    }
  }

  /** Whoever waits hears of it once nothing is under way that they wait for. */
  #tellDrainers(): void {
    const now = this.#tools.machine.steadyMs();
    const ages = [...this.#underWay.values()].map(({ since }) => now - since);
    this.#drainers = this.#drainers.filter(({ patienceMs, resolve }) => {
      if (ages.some((age) => age < patienceMs)) return true;
      resolve();
      return false;
    });
  }

  #schedule(): void {
    const { machine, store } = this.#tools;
    const patience = Math.min(...this.#drainers.map(({ patienceMs }) => patienceMs));
    // A place gets free when an attempt ends, which is heard of, or when it proves slow.
    const ages = this.#underWay.size > 0 ? [SLOW_MS, patience] : [];
    if (!this.#started && this.#drainers.length === 0) return;
    const next = this.#started && !this.#blocked ? store.nextAttemptAt(this.#channel.name) : null;
    const looks = next === null ? [] : [Math.max(next, this.#shutUntil) - machine.now()];
    this.#lookIn(Math.max(1, Math.min(...looks, ...ages, LONGEST_SLEEP_MS)));
  }

  #lookIn(ms: number): void {
    const { machine } = this.#tools;
    machine.clearTimeout(this.#timer);
    this.#timer = machine.setTimeout(() => this.#turn(), ms);
  }
}

/** An attempt that goes on after it was given up: nobody knows what comes of it. */
async function brokenOff(signal: AbortSignal): Promise<AttemptOutcome> {
  await new Promise<void>((resolve) => signal.addEventListener('abort', () => resolve(), { once: true }));
  await wait(BREAK_OFF_MS, undefined, { ref: false });
  return { kind: 'try-later', detail: 'no answer in time', unknown: true };
}

/** Every attempt under way listens to it. */
function newCutOff(): AbortController {
  const cutOff = new AbortController();
  setMaxListeners(2 * MOST_AT_ONCE, cutOff.signal);
  return cutOff;
}
