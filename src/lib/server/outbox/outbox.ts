import type { ChannelName } from '../../core/channel/channels.ts';
import type { Answered } from '../../core/delivery/answer.ts';
import type { AttemptOutcome } from '../../core/delivery/retry.ts';
import type { Channel } from '../channel/channel.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Stores } from '../store/all.ts';
import { Lane } from './lane.ts';
import type { Pace } from './pace.ts';
import { Retention } from './retention.ts';
import { Settling, type DeadEnd } from './settling.ts';

/** Answers to one message that are kept: two programs that answer each other do not fill a disk. */
const MOST_ANSWERS = 50;
/** How long attempts under way are waited for when the application stops: all of a stop takes four seconds. */
const STOP_MS = 2_500;
/** How often it is looked whether words of messages are old enough to be let go of. */
const RETENTION_MS = 60_000;

/**
 * Delivers queued messages, each channel in a lane of its own. A delivery is `queued`, then `leased` for one attempt, then `accepted`, `failed`, or
 * `queued` again with a longer wait. Each settlement is fenced by the attempt it belongs to; a lease that runs out, or
 * is cut off with the process, goes back to the queue marked in doubt.
 */
export class Outbox {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #clock: WorkspaceClock;
  readonly #lanes: ReadonlyMap<ChannelName, Lane>;
  readonly #settling: Settling;
  readonly #retention: Retention;
  readonly #onFault: (error: unknown) => void;
  #timer: unknown = null;
  #started = false;
  #stopping = false;
  #onAttempt: (channel: ChannelName, outcome: AttemptOutcome | null) => void = () => {};

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
    this.#settling = new Settling(stores, clock, chance);
    this.#retention = new Retention(work, stores.messageWords, clock);
    this.#onFault = onFault;
    const tools = {
      ...{ work, pace, onFault, settling: this.#settling },
      ...{ store: stores.outbox, machine: clock.machine },
      onAttempt: (channel: ChannelName, outcome: AttemptOutcome | null) => this.#onAttempt(channel, outcome)
    };
    this.#lanes = new Map(channels.map((channel) => [channel.name, new Lane(channel, tools)]));
  }

  /** Who hears of dead ends, in the transaction that records them. */
  attach(deadEnd: DeadEnd): void {
    this.#settling.attach(deadEnd);
  }

  /** Who hears of attempts and how they end; null where one was cut off. */
  attachMeter(onAttempt: (channel: ChannelName, outcome: AttemptOutcome | null) => void): void {
    this.#onAttempt = onAttempt;
  }

  start(): void {
    if (this.#started) return;
    this.#started = true;
    this.#stopping = false;
    this.#work.run(() => this.#stores.outbox.releaseAll());
    for (const lane of this.#lanes.values()) lane.start();
    this.#keepTidy();
  }

  /** Makes no more attempts, waits a little for those under way, and gives back what has not ended by then: in doubt. */
  async stop(): Promise<void> {
    this.#started = false;
    this.#stopping = true;
    this.#clock.machine.clearTimeout(this.#timer);
    const stopped = await Promise.allSettled([...this.#lanes.values()].map((lane) => lane.stop(STOP_MS)));
    // What could not be written down stays leased, and is given back in doubt at the next start.
    for (const one of stopped) if (one.status === 'rejected') this.#onFault(one.reason);
  }

  /** What waits to be tried again is tried at once: the other side is well again. */
  hurry(): void {
    this.#work.run(() => this.#stores.outbox.hurry(this.#clock.machine.now()));
    this.wake();
  }

  /** Somebody says that an address works: what came back from it counts no more. */
  worksAgain(address: string): void {
    this.#work.run(() => this.#stores.deadEnds.worksAgain(address));
  }

  /** Something was queued: looks soon. */
  wake(): void {
    for (const lane of this.#lanes.values()) lane.wake();
  }

  /** The first channel that does not go on, and why not; null where all do. */
  standing(): { channel: ChannelName; why: 'cannot write' | 'nothing moves' } | null {
    for (const [channel, { standing }] of this.#lanes) if (standing) return { channel, why: standing };
    return null;
  }

  /**
   * Makes every delivery that is due now, once; those that must wait for another try stay queued.
   * @param patienceMs attempts that have taken longer are not waited for
   */
  async drain(patienceMs?: number): Promise<void> {
    await Promise.all([...this.#lanes.values()].map((lane) => lane.drain(patienceMs)));
    await this.#retention.keep(() => this.#stopping);
  }

  #keepTidy(): void {
    this.#retention
      .keep(() => this.#stopping)
      .catch(this.#onFault)
      .finally(() => {
        if (this.#started) this.#timer = this.#clock.machine.setTimeout(() => this.#keepTidy(), RETENTION_MS);
      });
  }

  /**
   * Mail that was taken came back: its delivery has failed after all, and the address is marked.
   * @returns false when no such delivery is known
   */
  returned(messageId: string, address: string, reason: string): boolean {
    return this.#work.run(() => {
      const { deadEnds } = this.#stores;
      const id = deadEnds.byMessage('mail', messageId, address);
      if (id === null) return false;
      deadEnds.mark(address, reason, this.#clock.now());
      this.#settling.fail(id, reason);
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
      else this.#settling.fail(id, reason);
      return true;
    });
  }
}
