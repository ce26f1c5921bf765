import { aTurn, LONG_SLICE_MS, SHORT_SLICE_MS, type SlicePace } from './engine/turn.ts';
import type { MachineClock } from './engine/clock.ts';

/** The longest that work in slices waits for requests before its next slice: it goes on however many there are. */
const MOST_WAIT_MS = 100;
/** After so long without a request nobody is taken to be reading. */
const QUIET_AFTER_MS = 2_000;

/** The requests being answered. Work that goes on in slices lets them through between two of them, so that a page waits for one slice at most. */
export class Requests implements SlicePace {
  readonly #machine: Pick<MachineClock, 'steadyMs'>;
  #open = 0;
  #lastAt = -Infinity;
  #waiting: (() => void)[] = [];

  constructor(machine: Pick<MachineClock, 'steadyMs'>) {
    this.#machine = machine;
  }

  /** Answers one. @returns what `answer` does */
  async answering<T>(answer: () => T | Promise<T>): Promise<T> {
    this.#open++;
    this.#lastAt = this.#machine.steadyMs();
    try {
      return await answer();
    } finally {
      if (--this.#open === 0) for (const goOn of this.#waiting.splice(0)) goOn();
    }
  }

  sliceMs(): number {
    const isQuiet = this.#open === 0 && this.#machine.steadyMs() - this.#lastAt > QUIET_AFTER_MS;
    return isQuiet ? LONG_SLICE_MS : SHORT_SLICE_MS;
  }

  /** Ends once what came in meanwhile has been answered. */
  async letOthersIn(): Promise<void> {
    // The first turn brings in what has come, the second takes it to where it is counted.
    await aTurn();
    await aTurn();
    if (this.#open === 0) return;
    let timer: NodeJS.Timeout | undefined;
    await new Promise<void>((resolve) => {
      this.#waiting.push(resolve);
      timer = setTimeout(resolve, MOST_WAIT_MS);
    });
    clearTimeout(timer);
  }
}
