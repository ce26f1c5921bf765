import type { TaskFacts } from '../../core/forecast/facts.ts';
import type { TaskDetails } from '../../core/task/details.ts';
import type { Stores } from '../store/all.ts';

/** Changed tasks up to which they are read one by one rather than all anew. */
const MOST_ONE_BY_ONE = 2_000;
/** Above so many tasks nothing is kept: it would take too much room for what it saves. */
const MOST_KEPT = 200_000;

/**
 * Every task with its details, kept between looks at a rule: reading a hundred thousand of them takes over a second. What has been changed
 * since is read again at the next look. It is for looking only: inside a transaction that may be taken back, tasks are read.
 */
export class WholeList {
  readonly #stores: Stores;
  #tasks: Map<number, TaskFacts> | null = null;
  #details: Map<number, TaskDetails> | null = null;
  #list: TaskFacts[] = [];
  readonly #stale = new Set<number>();
  #held = false;

  constructor(stores: Stores) {
    this.#stores = stores;
  }

  forgetAll(): void {
    this.#tasks = null;
    this.#details = null;
    this.#list = [];
    this.#stale.clear();
  }

  forget(taskIds: Iterable<number>): void {
    if (this.#tasks) for (const id of taskIds) this.#stale.add(id);
  }

  /** While very many tasks are changed one after another it stays as it was before: nobody who looks waits for it to be read again and again. */
  hold(held: boolean): void {
    this.#held = held;
  }

  /** Every task. The list is kept: read it, and do not change it. */
  tasks(): readonly TaskFacts[] {
    this.#refresh();
    return this.#list;
  }

  /** The details of all of them. */
  details(): ReadonlyMap<number, TaskDetails> {
    this.#refresh();
    const details = (this.#details ??= this.#stores.taskDetails.all());
    if (this.#list.length > MOST_KEPT) this.#details = null;
    return details;
  }

  #refresh(): void {
    if (this.#held && this.#tasks) return;
    if (this.#stale.size > MOST_ONE_BY_ONE || this.#list.length > MOST_KEPT) this.forgetAll();
    if (!this.#tasks) {
      this.#list = this.#stores.tasks.facts();
      this.#tasks = new Map(this.#list.map((task) => [task.id, task]));
      return;
    }
    if (this.#stale.size === 0) return;
    for (const id of this.#stale) {
      const task = this.#stores.tasks.factsOf(id);
      const details = task && this.#details ? this.#stores.taskDetails.of(id) : null;
      if (task) this.#tasks.set(id, task);
      else this.#tasks.delete(id);
      if (details) this.#details!.set(id, details);
      else this.#details?.delete(id);
    }
    this.#stale.clear();
    this.#list = [...this.#tasks.values()].sort((a, b) => a.id - b.id);
  }
}
