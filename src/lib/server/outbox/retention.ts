import { MS_PER_DAY } from '../../core/time/day.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import { aTurn } from '../engine/turn.ts';
import type { MessageWordsStore } from '../store/message-words.ts';

/** How long the words of a message are kept, in ms of the workspace clock from the moment at which it left. */
const WORDS_KEPT_MS = 365 * MS_PER_DAY;
/** Of so many messages in one transaction. */
const AT_ONCE = 500;

/** Lets go of what messages said once it is a year old. That they left, to whom and how that ended stays. */
export class Retention {
  readonly #work: UnitOfWork;
  readonly #store: MessageWordsStore;
  readonly #clock: WorkspaceClock;
  /** The day of the workspace clock, in UTC, for which it is done. */
  #doneFor: number | null = null;

  constructor(work: UnitOfWork, store: MessageWordsStore, clock: WorkspaceClock) {
    this.#work = work;
    this.#store = store;
    this.#clock = clock;
  }

  /**
   * Does so, once a day of the workspace clock.
   * @param isOver whether to stop half-way: the rest is done another time
   */
  async keep(isOver: () => boolean): Promise<void> {
    const now = this.#clock.now();
    const day = Math.floor(now / MS_PER_DAY);
    if (this.#doneFor === day) return;
    const slice = () => this.#store.drop(now - WORDS_KEPT_MS, AT_ONCE);
    while (this.#work.run(slice) > 0) {
      await aTurn();
      if (isOver()) return;
    }
    this.#doneFor = day;
  }
}
