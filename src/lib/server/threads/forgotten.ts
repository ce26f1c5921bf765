import type { ForgetListener } from '../engine/facts-source.ts';

/** What is no longer as it was read, as plain data. */
export interface ForgottenSince {
  /** Everything that was compiled; `with tasks` where tasks are other than they were too. */
  compiled: 'no' | 'yes' | 'with tasks';
  taskIds: number[];
  digests: boolean;
}

/** More tasks than this are not named one by one. */
const MOST_NAMED = 5_000;

/** Collects what the workspace forgets, for whoever keeps what it has read of it in a thread. */
export class Forgotten implements ForgetListener {
  #compiled: ForgottenSince['compiled'] = 'no';
  #taskIds = new Set<number>();
  #digests = false;

  invalidated(tasksToo: boolean): void {
    if (tasksToo) this.#compiled = 'with tasks';
    else if (this.#compiled === 'no') this.#compiled = 'yes';
  }

  forgot(taskIds: Iterable<number>): void {
    for (const id of taskIds) this.#taskIds.add(id);
    if (this.#taskIds.size <= MOST_NAMED) return;
    this.#taskIds.clear();
    this.#compiled = 'with tasks';
  }

  forgotDigests(): void {
    this.#digests = true;
  }

  /** What has been collected; from now on anew. */
  take(): ForgottenSince {
    const taken = { compiled: this.#compiled, taskIds: [...this.#taskIds], digests: this.#digests };
    this.#compiled = 'no';
    this.#taskIds = new Set();
    this.#digests = false;
    return taken;
  }
}
