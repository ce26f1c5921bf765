import type { Stores } from '../store/all.ts';
import type { Task } from '../store/tasks.ts';
import type { EngineChores } from '../engine/engine-chores.ts';
import type { ChoreKeeper } from '../workspace/commit.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { backAt } from './back-from-parking.ts';
import type { Parking } from './parking.ts';
import type { Promises } from './promises.ts';
import type { Renewals } from './renewals.ts';
import type { Sweeper } from '../sweep/sweeper.ts';
import { purgeInstant, type TaskActs } from './task-acts.ts';

/** Keeps when tasks do something by themselves: come back by the calendar, leave the bin, come to the end of what was promised, are parked no more. */
export class ChorePlan implements ChoreKeeper {
  readonly #stores: Stores;
  readonly #renewals: Renewals;

  readonly #source: FactsSource;

  constructor(stores: Stores, renewals: Renewals, source: FactsSource) {
    this.#stores = stores;
    this.#renewals = renewals;
    this.#source = source;
  }

  /** Works out again what a task will do. */
  refresh(taskId: number): void {
    this.#stores.chores.clear(taskId);
    const task = this.#stores.tasks.byId(taskId);
    if (task) this.#set(task);
  }

  /** Works out all of them again: calendars or zones have changed. */
  refreshAll(): void {
    for (const id of this.#stores.tasks.idsRenewedByCalendar()) this.refresh(id);
    for (const id of this.#stores.tasks.idsParked()) this.refresh(id);
  }

  #set(task: Task): void {
    const purge = purgeInstant(task);
    if (purge !== null) this.#stores.chores.set({ taskId: task.id, kind: 'purge', at: purge });
    const renew = this.#renewals.calendarInstant(task);
    if (renew !== null) this.#stores.chores.set({ taskId: task.id, kind: 'renew', at: renew });
    const back = backAt(this.#source.facts, task);
    if (back !== null) this.#stores.chores.set({ taskId: task.id, kind: 'review', at: back });
    const promise = this.#stores.promises.endingOf(task.id);
    if (promise) this.#stores.chores.set({ taskId: task.id, kind: 'promise', at: promise.untilAt });
  }
}

/** Does what is due, one at a time; the engine asks between its slices. */
export class ChoreRunner implements EngineChores {
  readonly #stores: Stores;
  readonly #acts: TaskActs;
  readonly #promises: Promises;
  readonly #sweeper: Sweeper;
  readonly #parking: Parking;

  constructor(stores: Stores, acts: TaskActs, promises: Promises, parking: Parking, sweeper: Sweeper) {
    this.#stores = stores;
    this.#parking = parking;
    this.#acts = acts;
    this.#promises = promises;
    this.#sweeper = sweeper;
  }

  isUnderWay(): boolean {
    return this.#sweeper.isUnderWay();
  }

  /** The earliest instant at which a task does something by itself, or a sweep something to it; null when none will. */
  nextAt(): number | null {
    const [own, swept] = [this.#stores.chores.nextAt(), this.#sweeper.nextAt()];
    return own === null || swept === null ? (own ?? swept) : Math.min(own, swept);
  }

  /**
   * Does the earliest chore.
   * @param now workspace clock
   * @throws whatever kept it from being done; it is not tried again before its task changes
   */
  runOne(now: number): void {
    const [chore] = this.#sweeper.isUnderWay() ? [] : this.#stores.chores.due(now, 1);
    // Of one instant, what a task does by itself comes before what is done to it.
    if (!chore || chore.at > (this.#sweeper.nextAt() ?? Infinity)) return this.#sweeper.runOne(now);
    // What is done sets what comes next; what fails must not be met again at once.
    this.#stores.chores.clear(chore.taskId);
    if (chore.kind === 'purge') this.#acts.purge(chore.taskId);
    else if (chore.kind === 'promise') this.#promises.end(chore.taskId);
    else if (chore.kind === 'review') this.#parking.comeBack(chore.taskId, now);
    else this.#acts.renewByCalendar(chore.taskId);
  }
}
