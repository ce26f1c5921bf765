import { Worker } from 'node:worker_threads';
import { CodedError } from '../../core/errors.ts';
import type { Container } from '../container.ts';
import { isSameEffect } from '../service/effects.ts';
import { isLong, lookAt, type Asked } from './asked.ts';
import { plainOptions, type Question, type Said, type Told } from './talk.ts';

/** So many are tried out side by side; whoever comes then waits. */
const MOST_AT_ONCE = 2;
/** A thread that nobody has asked for so long ends. */
const REST_MS = 10 * 60_000;

/** Hears how far it has come, from 0 to 1. */
export type OnPart = (part: number) => void;

/** One thread; it has one question at a time. */
interface Thread {
  worker: Worker;
  /** Whoever has asked hears what it says, and why it says no more; nobody while it rests. */
  asker: { hears: (said: Said) => void; lost: (why: string) => void } | null;
  rest: NodeJS.Timeout | null;
}

/**
 * Where acts are looked at before they are done: those on a few tasks on the spot, those on many on a copy in a thread of its own, so that nobody
 * has to wait for the looks of another.
 */
export class TryOuts {
  readonly #app: () => Container;
  readonly #file: string | null;
  readonly #threads = new Set<Thread>();
  readonly #resting: Thread[] = [];
  readonly #waiting: (() => void)[] = [];
  #closing = false;

  /** @param file what the thread runs; null where there is none, in tests and while it is developed: everything is looked at on the spot */
  constructor(app: () => Container, file: string | null) {
    this.#app = app;
    this.#file = file;
  }

  /**
   * What an act would do.
   * @param signal whoever asked wants to know no more
   * @throws CodedError what keeps it from being done, or `preview-failed`
   */
  async look(
    personId: number,
    asked: Asked,
    onPart: OnPart = () => {},
    signal?: AbortSignal
  ): Promise<unknown> {
    const app = this.#app();
    const { db, clock } = app;
    if (this.#file === null || db.memory || !isLong(app, personId, asked))
      return lookAt(app, personId, asked);
    const thread = await this.#take(this.#file, signal);
    const at = { workspaceMs: clock.now(), machineMs: clock.machine.now() };
    return this.#ask(thread, { personId, asked, at }, onPart, signal);
  }

  /**
   * Before a long act is done that was looked at: looks again, where something has happened since.
   * @param stamp of what was said; null where nobody had looked
   * @returns the stamp by which it is done
   * @throws CodedError `preview-stale`, or as `look`
   */
  async lookAgain(personId: number, asked: Asked, stamp: string | null): Promise<string | null> {
    const app = this.#app();
    if (stamp === null || this.#file === null || app.db.memory) return stamp;
    if (app.effects.isFresh(stamp) || !isLong(app, personId, asked)) return stamp;
    const fresh = stampIn(await this.look(personId, asked));
    if (!isSameEffect(stamp, fresh)) throw new CodedError('preview-stale');
    return fresh;
  }

  /** Begins a thread before anybody asks: reading its code takes a second. */
  ready(): void {
    if (this.#file === null || this.#app().db.memory || this.#threads.size > 0) return;
    this.#rest(this.#begin(this.#file));
  }

  /** Ends with the application; whoever waits for a look has no answer. */
  async close(): Promise<void> {
    this.#closing = true;
    await Promise.all([...this.#threads].map((thread) => this.#end(thread)));
  }

  /** A thread that rests, a new one, or the first that is free. */
  async #take(file: string, signal?: AbortSignal): Promise<Thread> {
    while (this.#resting.length === 0 && this.#threads.size >= MOST_AT_ONCE)
      await new Promise<void>((resolve) => this.#waiting.push(resolve));
    if (signal?.aborted) {
      this.#waiting.shift()?.();
      throw new CodedError('preview-failed');
    }
    const rested = this.#resting.pop();
    if (!rested) return this.#begin(file);
    if (rested.rest) clearTimeout(rested.rest);
    return rested;
  }

  #begin(file: string): Thread {
    const told: Told = { options: plainOptions(this.#app().options), file: this.#app().db.name };
    const worker = new Worker(file, { workerData: told });
    const thread: Thread = { worker, asker: null, rest: null };
    const lost = (why: string) => {
      void this.#end(thread);
      thread.asker?.lost(why);
    };
    worker.on('message', (said: Said) => thread.asker?.hears(said));
    worker.on('error', (error) => lost(error.stack ?? error.message));
    worker.on('exit', (code) => lost(`The thread ended with ${code}.`));
    // What is asked keeps the process, and what rests does not.
    worker.unref();
    this.#threads.add(thread);
    return thread;
  }

  async #ask(thread: Thread, question: Question, onPart: OnPart, signal?: AbortSignal): Promise<unknown> {
    const given = () => void this.#end(thread);
    signal?.addEventListener('abort', given);
    try {
      return await new Promise((resolve, reject) => {
        const lost = (why: string) => {
          // Who has given up, and an application that ends, lose nothing.
          if (!signal?.aborted && !this.#closing)
            this.#app().log.error({ err: why }, 'a look at an act was lost');
          reject(new CodedError('preview-failed'));
        };
        const hears = (said: Said) => {
          if ('part' in said) onPart(said.part);
          else if ('answer' in said) resolve(said.answer);
          else if ('failed' in said) lost(said.failed);
          else reject(new CodedError(said.refused.code, said.refused.params, said.refused.field));
        };
        thread.asker = { hears, lost };
        thread.worker.ref();
        thread.worker.postMessage(question);
      });
    } finally {
      signal?.removeEventListener('abort', given);
      thread.asker = null;
      thread.worker.unref();
      if (this.#threads.has(thread)) this.#rest(thread);
    }
  }

  #rest(thread: Thread): void {
    thread.rest = setTimeout(() => void this.#end(thread), REST_MS);
    thread.rest.unref();
    this.#resting.push(thread);
    this.#waiting.shift()?.();
  }

  async #end(thread: Thread): Promise<void> {
    if (!this.#threads.delete(thread)) return;
    if (thread.rest) clearTimeout(thread.rest);
    const at = this.#resting.indexOf(thread);
    if (at >= 0) this.#resting.splice(at, 1);
    this.#waiting.shift()?.();
    await thread.worker.terminate();
  }
}

/** The stamp of what was said, wherever it stands in it. */
function stampIn(said: unknown): string | null {
  const { stamp, effect } = said as { stamp?: string; effect?: { stamp?: string | null } };
  return stamp ?? effect?.stamp ?? null;
}
