import type { Db } from './open.ts';

/** What one part of a unit has asked for. */
interface Part {
  /** Done once the outermost part is committed. */
  then: (() => void)[];
  /** Done when this part is taken back, the last first. */
  undo: (() => void)[];
}

/**
 * The only place that begins, commits and rolls back. A unit is one immediate transaction; what is run inside another unit is a part of
 * that, with a savepoint: it is taken back with the whole, or by itself when it throws and whoever began it goes on.
 *
 * What memory keeps of what a unit wrote is kept under the unit too: whoever fills a cache or marks something as planned inside one says
 * with `onRollback` how that is forgotten, and whoever tells others of it does so with `afterCommit`.
 */
export class UnitOfWork {
  readonly #db: Db;
  readonly #transaction;
  readonly #parts: Part[] = [];
  readonly #onFault: (error: unknown) => void;
  #lent: Promise<unknown> | null = null;

  /** @param onFault hears of what failed after a commit: what was written stands all the same */
  constructor(db: Db, onFault: (error: unknown) => void) {
    this.#db = db;
    this.#transaction = db.transaction((work: () => unknown) => work());
    this.#onFault = onFault;
  }

  /** Whether a unit is under way. */
  get isOpen(): boolean {
    return this.#parts.length > 0;
  }

  /** Whether a thread of ours writes: whoever writes here waits for it, without holding anybody who reads. */
  get isLent(): boolean {
    return this.#lent !== null;
  }

  /**
   * Lets a thread of ours write, by a connection of its own: no unit begins meanwhile among those who wait for `returned`.
   * @param work ends when the thread has written
   */
  async lend<T>(work: () => Promise<T>): Promise<T> {
    // Whoever has waited looks again: another may have come before them.
    while (this.#lent) await this.#lent;
    const writing = work();
    const lent = writing.catch(() => {});
    this.#lent = lent;
    try {
      return await writing;
    } finally {
      this.#lent = null;
    }
  }

  /** Ends when no thread of ours writes. */
  async returned(): Promise<void> {
    while (this.#lent) await this.#lent;
  }

  /** Whether a unit could begin now, without waiting: neither a thread of ours nor another process has the database. */
  isFree(): boolean {
    if (this.isLent) return false;
    if (this.isOpen) return true;
    const [{ timeout }] = this.#db.pragma('busy_timeout') as [{ timeout: number }];
    this.#db.pragma('busy_timeout = 0');
    try {
      this.#transaction.immediate(() => {});
      return true;
    } catch (failure) {
      // Whatever else is wrong is said by what is then written.
      return !(failure as { code?: string }).code?.startsWith('SQLITE_BUSY');
    } finally {
      this.#db.pragma(`busy_timeout = ${timeout}`);
    }
  }

  /**
   * Runs something as a unit, or as a part of the one under way. Anything it throws takes it back and is thrown on.
   * @throws TypeError when it would be left open while something is waited for
   */
  run<T>(work: () => T): T {
    const part: Part = { then: [], undo: [] };
    const outer = this.#parts.at(-1);
    this.#parts.push(part);
    let result: T;
    try {
      const checked = () => atOnce(work());
      result = (outer ? this.#transaction(checked) : this.#transaction.immediate(checked)) as T;
    } catch (error) {
      this.#parts.pop();
      for (const undo of part.undo.reverse()) undo();
      throw error;
    }
    this.#parts.pop();
    if (outer) {
      outer.then.push(...part.then);
      outer.undo.push(...part.undo);
    } else this.#told(part.then);
    return result;
  }

  /** Runs something to see what would come of it, and takes it back. @returns what it returned */
  tryOut<T>(work: () => T): T {
    const tried = new TriedOut<T>();
    try {
      this.run(() => {
        tried.result = work();
        throw tried;
      });
    } catch (error) {
      if (error !== tried) throw error;
    }
    return tried.result!;
  }

  /** Does something once the outermost unit is committed, and never when it is not; at once where none is under way. */
  afterCommit(then: () => void): void {
    const part = this.#parts.at(-1);
    if (part) part.then.push(then);
    else then();
  }

  /** Does something when the part under way is taken back, by itself or with the whole. */
  onRollback(undo: () => void): void {
    this.#parts.at(-1)?.undo.push(undo);
  }

  /** One that fails keeps none of the others from hearing. */
  #told(all: readonly (() => void)[]): void {
    for (const then of all) {
      try {
        then();
      } catch (error) {
        this.#onFault(error);
      }
    }
  }
}

/** Ends what was only tried out. */
class TriedOut<T> extends Error {
  result: T | null = null;
}

/** Nothing else may be written in between: what is waited for does not belong to a unit. */
function atOnce<T>(result: T): T {
  if (result instanceof Promise) {
    // Whatever it comes to is nobody's any more.
    result.catch(() => {});
    throw new TypeError('A unit of work was left open while something was waited for.');
  }
  return result;
}
