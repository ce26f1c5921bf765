import type { ChannelName } from '../../core/channel/channels.ts';
import { RateWindow, type Rate } from '../../core/delivery/rate.ts';

/** Addresses that are kept in mind at most; those that were not written to in the last minute are let go of then. */
const MOST_ADDRESSES = 10_000;

/** How fast channels are sent to. Kept in memory on the machine clock: a server that starts anew begins with an empty minute. */
export class Pace {
  readonly #rateOf: (channel: ChannelName) => Rate;
  readonly #channels = new Map<string, RateWindow>();
  readonly #addresses = new Map<string, RateWindow>();

  constructor(rateOf: (channel: ChannelName) => Rate) {
    this.#rateOf = rateOf;
  }

  /** When the channel takes another message. */
  opensAt(channel: ChannelName, now: number): number {
    const { perMinute } = this.#rateOf(channel);
    return perMinute === null ? now : windowOf(this.#channels, channel).opensAt(now, perMinute);
  }

  /** When an address takes another message. */
  addressOpensAt(channel: ChannelName, address: string, now: number): number {
    const { perAddress } = this.#rateOf(channel);
    return perAddress === null
      ? now
      : windowOf(this.#addresses, keyOf(channel, address)).opensAt(now, perAddress);
  }

  /** An attempt is made. */
  count(channel: ChannelName, address: string, now: number): void {
    const { perMinute, perAddress } = this.#rateOf(channel);
    if (perMinute !== null) windowOf(this.#channels, channel).count(now);
    if (perAddress === null) return;
    if (this.#addresses.size >= MOST_ADDRESSES)
      for (const [key, window] of this.#addresses) if (window.isEmpty(now)) this.#addresses.delete(key);
    windowOf(this.#addresses, keyOf(channel, address)).count(now);
  }
}

function keyOf(channel: ChannelName, address: string): string {
  return `${channel} ${address.toLowerCase()}`;
}

function windowOf(windows: Map<string, RateWindow>, key: string): RateWindow {
  let window = windows.get(key);
  if (!window) windows.set(key, (window = new RateWindow()));
  return window;
}
