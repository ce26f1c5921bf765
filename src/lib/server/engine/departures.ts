import { isMachineFault } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource } from './facts-source.ts';
import type { Departure, Leaving } from './leaving.ts';
import type { RushCheck } from './rush.ts';

/** How long a look at what leaves at one instant holds, workspace clock, while nothing is changed. */
const LOOK_LASTS_MS = 5_000;

/** What was found to leave at one instant. */
interface Looked {
  instant: number;
  /** By what it is known that nothing has been changed since. */
  changes: number;
  at: number;
  /** The first last. */
  left: Departure[];
}

/**
 * Lets the messages of an instant leave, slice by slice. What leaves at one instant is looked at whole, since what ends together is seen
 * together; of ten thousand notices that takes longer than a slice, so the look is kept for the slices after while nothing has been changed.
 */
export class Departures {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #leaving: Leaving;
  readonly #rush: RushCheck;
  #looked: Looked | null = null;

  readonly #work: UnitOfWork;

  constructor(work: UnitOfWork, stores: Stores, source: FactsSource, leaving: Leaving, rush: RushCheck) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#leaving = leaving;
    this.#rush = rush;
  }

  /**
   * At least one leaves, however long it took to look. One that cannot be written ends as failed and stops nobody else's.
   * @param instant the earliest at which something leaves
   */
  slice(
    instant: number,
    now: number,
    isOver: () => boolean,
    onFault: (error: unknown, noticeId: number) => void
  ): void {
    // What is taken back is looked for anew.
    this.#work.onRollback(() => (this.#looked = null));
    const { left, isFresh } = this.#look(instant, now);
    for (let departure = left.pop(); departure; departure = left.pop()) {
      const { notices, leave } = departure;
      // What was looked at in an earlier slice may have been withdrawn since.
      if (!isFresh && !notices.every(({ id }) => this.#isWaiting(id))) continue;
      try {
        this.#work.run(leave);
      } catch (error) {
        if (isMachineFault(error)) throw error;
        for (const notice of notices) this.#stores.notices.end(notice, 'failed', String(error), now);
        onFault(error, notices[0]!.id);
      }
      if (isOver()) break;
    }
    if (left.length === 0) this.#looked = null;
  }

  #look(instant: number, now: number): { left: Departure[]; isFresh: boolean } {
    const kept = this.#looked;
    const { changes } = this.#source;
    if (kept?.instant === instant && kept.changes === changes && Math.abs(now - kept.at) < LOOK_LASTS_MS)
      return { left: kept.left, isFresh: false };
    const leaving = this.#stores.notices.leaving(instant);
    const first = leaving[0]?.leavesAt;
    const together = leaving.filter(({ leavesAt }) => leavesAt === first);
    const left = this.#rush.admit(this.#leaving.outgoing(together, now), now).reverse();
    this.#looked = { instant, changes, at: now, left };
    return { left, isFresh: true };
  }

  #isWaiting(noticeId: number): boolean {
    const state = this.#stores.notices.byId(noticeId)?.state;
    return state === 'planned' || state === 'held' || state === 'folded';
  }
}
