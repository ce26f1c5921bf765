import { MS_PER_MINUTE } from '../time/day.ts';

/** How many messages a channel takes in any minute, in all and to one address; null without a limit. */
export interface Rate {
  perMinute: number | null;
  perAddress: number | null;
}

export const NO_RATE: Rate = { perMinute: null, perAddress: null };

/** Attempts of the last minute, on the machine clock. Any sixty seconds hold at most so many, not each minute of the clock. */
export class RateWindow {
  /** Ascending. */
  #times: number[] = [];

  /**
   * When another attempt may be made: `now`, or the moment at which the oldest of the last minute is a minute ago.
   * @param most how many a minute holds; null without a limit
   */
  opensAt(now: number, most: number | null): number {
    // A clock that was put back must not shut the channel for as long as that.
    this.#times = this.#times.filter((at) => at > now - MS_PER_MINUTE && at <= now);
    if (most === null || this.#times.length < most) return now;
    return this.#times[this.#times.length - most]! + MS_PER_MINUTE;
  }

  count(now: number): void {
    this.#times.push(now);
  }

  /** Whether nothing of the last minute is left in it. */
  isEmpty(now: number): boolean {
    const last = this.#times.at(-1);
    return last === undefined || last <= now - MS_PER_MINUTE;
  }
}
