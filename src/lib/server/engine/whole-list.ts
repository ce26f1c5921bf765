import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { TaskDetails } from '../../core/task/details.ts';
import type { Stores } from '../store/all.ts';
import { rangesOf } from '../store/id-ranges.ts';

/** Changed tasks up to which they are read by themselves rather than all anew. */
const MOST_ONE_BY_ONE = 2_000;
/** Ids of tasks that are read again at once. */
const AT_ONCE = 200;
/** Ids of tasks that are read for the first time at once: some milliseconds. */
const READ_AT_ONCE = 500;
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
  /** Whether the list is what the tasks are. */
  #isListed = true;
  readonly #stale = new Set<number>();
  #held = false;
  /** Tasks that have been read so far, up to an id, where not all have. */
  #begun: { tasks: Map<number, TaskFacts>; upTo: number } | null = null;

  constructor(stores: Stores) {
    this.#stores = stores;
  }

  forgetAll(): void {
    this.#begun = null;
    this.#tasks = null;
    this.#details = null;
    this.#list = [];
    this.#isListed = true;
    this.#stale.clear();
  }

  forget(taskIds: Iterable<number>): void {
    if (this.#tasks || this.#begun) for (const id of taskIds) this.#stale.add(id);
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

  /**
   * Reads some of the tasks where they are not kept, so that whoever looks at all of them need not wait for that.
   * @param isOver asked after each part: whether to leave the rest for later
   * @returns whether nothing is left to be read
   */
  readOn(isOver: () => boolean): boolean {
    if (this.#tasks) return this.#held || this.catchUp(isOver);
    // What would not be kept is not read before it is asked for.
    if (!this.#begun && this.#stores.tasks.count() > MOST_KEPT) return true;
    const begun = (this.#begun ??= { tasks: new Map(), upTo: 0 });
    const last = this.#stores.tasks.highestId();
    while (begun.upTo < last) {
      const { upTo } = begun;
      for (const task of this.#stores.tasks.factsIn(upTo + 1, upTo + READ_AT_ONCE))
        begun.tasks.set(task.id, task);
      begun.upTo += READ_AT_ONCE;
      if (isOver()) return false;
    }
    this.#keep([...begun.tasks.values()], begun.tasks);
    return this.#stale.size === 0;
  }

  /** What has been read of them already is read again: asking once for all costs less than asking for the rest part by part. */
  #readAll(): void {
    const list = this.#stores.tasks.facts();
    this.#stale.clear();
    this.#keep(list, new Map(list.map((task) => [task.id, task])));
  }

  #keep(list: TaskFacts[], tasks: Map<number, TaskFacts>): void {
    this.#begun = null;
    this.#list = list;
    this.#tasks = tasks;
  }

  /**
   * Reads again some of what was changed, also while it is held: what is held is what others see, and that changes when it is let go.
   * @param isOver asked after each part: whether to leave the rest for later
   * @returns whether nothing is left to be read
   */
  catchUp(isOver: () => boolean): boolean {
    if (!this.#tasks || this.#list.length > MOST_KEPT) return true;
    const ids = [...this.#stale].sort((a, b) => a - b);
    for (const range of rangesOf(ids, AT_ONCE)) {
      this.#read(range);
      if (isOver()) break;
    }
    return this.#stale.size === 0;
  }

  #read({ first, last, ids }: { first: number; last: number; ids: readonly number[] }): void {
    const tasks = new Map(this.#stores.tasks.factsIn(first, last).map((task) => [task.id, task]));
    const details = this.#details && this.#stores.taskDetails.in(first, last);
    for (const id of ids) {
      const task = tasks.get(id);
      if (task) this.#tasks!.set(id, task);
      else this.#tasks!.delete(id);
      const detail = details?.get(id);
      if (detail) this.#details!.set(id, detail);
      else this.#details?.delete(id);
      this.#stale.delete(id);
    }
    this.#isListed = false;
  }

  #refresh(): void {
    if (this.#held && this.#tasks) return;
    if (this.#stale.size > MOST_ONE_BY_ONE || this.#list.length > MOST_KEPT) this.forgetAll();
    if (!this.#tasks) this.#readAll();
    this.catchUp(() => false);
    if (this.#isListed) return;
    this.#list = [...this.#tasks!.values()].sort((a, b) => a.id - b.id);
    this.#isListed = true;
  }
}
