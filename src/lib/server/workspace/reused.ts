import type { WorkspaceClock } from '../engine/clock.ts';

interface Known<T> {
  of: readonly unknown[];
  value: T;
  /** Machine's steady clock, ms. */
  foundAt: number;
  tookMs: number;
  /** How far the workspace clock stood from the machine's: another one was moved. */
  offset: number;
}

/** What takes long to compute for a page, kept for so many times as long as it took, while what it is computed from stays the same. */
export class Reused<T> {
  readonly #clock: WorkspaceClock;
  readonly #rest: number;
  readonly #quickMs: number;
  #known: Known<T> | null = null;

  /** @param quickMs what takes no longer than this is computed anew each time */
  constructor(clock: WorkspaceClock, rest: number, quickMs: number) {
    this.#clock = clock;
    this.#rest = rest;
    this.#quickMs = quickMs;
  }

  /**
   * @param of what it is computed from, each compared by identity
   * @param held it is kept for as long as that stays the same
   */
  get(of: readonly unknown[], compute: () => T, held = false): T {
    const { machine } = this.#clock;
    const now = this.#clock.now();
    const offset = this.#clock.running ? now - machine.now() : now;
    const known = this.#known;
    const isFresh =
      known !== null &&
      Math.abs(known.offset - offset) < 1_000 &&
      (held || machine.steadyMs() - known.foundAt < this.#rest * known.tookMs) &&
      known.of.every((one, i) => one === of[i]);
    if (isFresh) return known.value;
    const began = machine.steadyMs();
    const value = compute();
    const foundAt = machine.steadyMs();
    const tookMs = foundAt - began;
    this.#known = tookMs > this.#quickMs ? { of, value, foundAt, tookMs, offset } : null;
    return value;
  }
}
