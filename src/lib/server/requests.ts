import { aTurn } from './engine/turn.ts';

/** The longest that work in slices waits for requests before its next slice: it goes on however many there are. */
const MOST_WAIT_MS = 100;

/** The requests being answered. Work that goes on in slices lets them through between two of them, so that a page waits for one slice at most. */
export class Requests {
  #open = 0;
  #waiting: (() => void)[] = [];

  /** Answers one. @returns what `answer` does */
  async answering<T>(answer: () => T | Promise<T>): Promise<T> {
    this.#open++;
    try {
      return await answer();
    } finally {
      if (--this.#open === 0) for (const goOn of this.#waiting.splice(0)) goOn();
    }
  }

  /** Ends once what came in meanwhile has been answered. */
  async letThrough(): Promise<void> {
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
