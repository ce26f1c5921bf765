import { CHANNEL, LEAVING, isLeaving, type ChannelName } from '../../core/channel/channels.ts';
import type { LeavingChannel } from '../../core/channel/settings.ts';
import type { AttemptOutcome } from '../../core/delivery/retry.ts';
import type { MachineClock } from '../engine/clock.ts';

/** What is set up, as it is asked at each look. */
export interface SetUpNow {
  /** Channels that messages can go by. */
  open(): ChannelName[];
  /** Mail is kept here and not sent. */
  keepsMail(): boolean;
}

/** How often it is tried again whether mail can leave, while it cannot. */
const AGAIN_MS = 5 * 60_000;
const PROBE_MS = 20_000;

/** Whether what is set up takes messages over: known from what was tried last. */
export type Health = { state: 'not tried' } | { state: 'works' } | { state: 'fails'; why: string };

/**
 * Whether messages can leave at all. It hears how each attempt ends; what a server answers to a message is no failure of the channel. Mail is tried at start,
 * when it is asked for, and every few minutes while it fails, by everything but a message.
 */
export class ChannelHealth {
  readonly #setUp: SetUpNow;
  readonly #machine: MachineClock;
  readonly #whyNoMail: (signal: AbortSignal) => Promise<string | null>;
  readonly #onFault: (error: unknown) => void;
  readonly #of = new Map<ChannelName, Health>();
  #timer: unknown = null;
  #started = false;

  constructor(
    setUp: SetUpNow,
    machine: MachineClock,
    whyNoMail: (signal: AbortSignal) => Promise<string | null>,
    onFault: (error: unknown) => void
  ) {
    this.#setUp = setUp;
    this.#machine = machine;
    this.#whyNoMail = whyNoMail;
    this.#onFault = onFault;
  }

  of(channel: ChannelName): Health {
    return this.#of.get(channel) ?? { state: 'not tried' };
  }

  /** An attempt has ended; null where it was cut off. */
  note(channel: ChannelName, outcome: AttemptOutcome | null): void {
    if (!isLeaving(channel) || outcome === null) return;
    const unreached = outcome.kind === 'try-later' && outcome.unreached;
    this.#of.set(channel, unreached ? { state: 'fails', why: outcome.detail } : { state: 'works' });
    if (unreached) this.#soon();
  }

  /** Whether mail is kept here instead of sent. */
  get keepsMail(): boolean {
    return this.#setUp.keepsMail();
  }

  /** Why nothing leaves by any channel that is set up; null where something does, or where it is not known. */
  whyNothingLeaves(): string | null {
    const open = this.#setUp.open().filter(isLeaving);
    const whys = open.map((channel) => this.#whyNot(channel));
    if (whys.some((why) => why === null)) return null;
    return open
      .map((channel, i) => (open.length > 1 ? `By ${CHANNEL[channel].words}: ${whys[i]}` : whys[i]))
      .join(' ');
  }

  /** To be added to what was done that would send something; nothing where that leaves. */
  nothingLeavesWords(): string {
    const why = this.whyNothingLeaves();
    return why === null ? '' : ` But nothing is sent at the moment: ${why}`;
  }

  #whyNot(channel: LeavingChannel): string | null {
    if (channel === 'mail' && this.keepsMail) return null;
    const health = this.of(channel);
    return health.state === 'fails' ? health.why : null;
  }

  start(): void {
    this.#started = true;
    void this.probe();
  }

  stop(): void {
    this.#started = false;
    this.#machine.clearTimeout(this.#timer);
  }

  /** What is set up has changed: what was known of it counts no more. */
  forget(): void {
    for (const channel of LEAVING) this.#of.delete(channel);
    if (this.#started) void this.probe();
  }

  /** Tries whether a mail server would take a message, without one. */
  async probe(): Promise<Health> {
    if (!this.keepsMail) {
      try {
        const why = await this.#whyNoMail(AbortSignal.timeout(PROBE_MS));
        this.#of.set('mail', why === null ? { state: 'works' } : { state: 'fails', why });
      } catch (failure) {
        this.#onFault(failure);
      }
    }
    if (this.of('mail').state === 'fails') this.#soon();
    return this.of('mail');
  }

  #soon(): void {
    if (!this.#started) return;
    this.#machine.clearTimeout(this.#timer);
    this.#timer = this.#machine.setTimeout(() => void this.probe(), AGAIN_MS);
  }
}
