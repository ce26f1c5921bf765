import { Worker } from 'node:worker_threads';
import { CodedError } from '../../core/errors.ts';
import type { Logger } from 'pino';
import type { Db } from '../db/open.ts';
import type { ContainerOptions } from '../options.ts';
import type { TableRow } from '../in-out/read/table.ts';
import { plainOptions, TAKEN, type JobName, type Jobs, type Said, type Told } from './talk.ts';

/** A thread that nobody has asked for so long ends. */
const REST_MS = 3 * 60_000;

/**
 * Room for what is made for a moment, MB. It is cleared away sooner than Node does by itself: the memory is the process's. A look at 10,000 tasks
 * takes a tenth longer with the room of an import; an import with the room of a look takes a sixth more memory.
 */
const USUAL_ROOM = 16;
const ROOM: Partial<Record<JobName, number>> = { look: 64 };
const roomFor = (job: JobName) => ROOM[job] ?? USUAL_ROOM;

/** Hears how far it has come, from 0 to 1. */
export type OnPart = (part: number) => void;

export interface AskOptions {
  onPart?: OnPart;
  /** Takes rows that are said; the next come once these are taken. */
  onRows?: (rows: readonly TableRow[]) => Promise<void> | void;
  /** What it has needed for this is given back: the thread ends with it. */
  ends?: boolean;
  /** Whoever asked wants to know no more. */
  signal?: AbortSignal | undefined;
}

/** One thread; it has one question at a time. */
interface Thread {
  worker: Worker;
  room: number;
  /** Whoever has asked hears what it says, and why it says no more; nobody while it rests. */
  asker: { hears: (said: Said) => void; lost: (why: string) => void } | null;
  rest: NodeJS.Timeout | null;
}

/** Over which workspace they work, as it was opened, and where is written what is lost. */
interface ThreadsOf {
  db: Db;
  options: ContainerOptions;
  log: Logger;
}

/** Threads for what takes long, so that nobody has to wait for what another has asked. */
export class Threads {
  readonly #of: ThreadsOf;
  readonly #file: string | null;
  readonly #threads = new Set<Thread>();
  readonly #resting: Thread[] = [];
  readonly #waiting: (() => void)[] = [];
  readonly #most: number;
  #closing = false;

  /**
   * @param file what a thread runs; null where there is none, in tests and while it is developed
   * @param most so many work side by side; whoever comes then waits
   */
  constructor(of: ThreadsOf, file: string | null, most: number) {
    this.#most = most;
    this.#of = of;
    this.#file = file;
  }

  /** Whether there are any: otherwise everything is done on the spot. */
  get areThere(): boolean {
    return this.#file !== null && !this.#of.db.memory;
  }

  /**
   * Asks a thread that rests, a new one, or the first that is free.
   * @param given what it is given, or what says that once there is a thread
   * @throws CodedError what the thread says, or `thread-lost`
   */
  async ask<N extends JobName>(
    job: N,
    given: Jobs[N]['given'] | (() => Jobs[N]['given']),
    options: AskOptions = {}
  ): Promise<Jobs[N]['answer']> {
    const { signal } = options;
    const thread = await this.#take(roomFor(job), signal);
    const gaveUp = () => void this.#end(thread);
    signal?.addEventListener('abort', gaveUp);
    try {
      const told = typeof given === 'function' ? given() : given;
      return await this.#answer(thread, { job, given: told }, options);
    } finally {
      signal?.removeEventListener('abort', gaveUp);
      thread.asker = null;
      thread.worker.unref();
      if (options.ends) await this.#end(thread);
      else if (this.#threads.has(thread)) this.#rest(thread);
    }
  }

  /** Begins a thread before anybody asks for such a job: reading its code takes a second. */
  ready(job: JobName): void {
    if (this.areThere && this.#threads.size === 0) this.#rest(this.#begin(roomFor(job)));
  }

  /** Ends with the application; whoever waits has no answer. */
  async close(): Promise<void> {
    this.#closing = true;
    await Promise.all([...this.#threads].map((thread) => this.#end(thread)));
  }

  #answer<N extends JobName>(
    thread: Thread,
    question: { job: N; given: Jobs[N]['given'] },
    { onPart, onRows, signal }: AskOptions
  ): Promise<Jobs[N]['answer']> {
    return new Promise((resolve, reject) => {
      const lost = (why: string) => {
        // Who has given up, and an application that ends, lose nothing.
        if (!signal?.aborted && !this.#closing)
          this.#of.log.error({ err: why, job: question.job }, 'what was asked of a thread was lost');
        reject(new CodedError('thread-lost'));
      };
      const hears = (said: Said) => {
        if ('part' in said) onPart?.(said.part);
        else if ('rows' in said) {
          const taken = async () => onRows?.(said.rows);
          taken().then(
            () => thread.worker.postMessage(TAKEN),
            (failure: unknown) => {
              // It waits for somebody to take them, and nobody will.
              void this.#end(thread);
              reject(failure);
            }
          );
        } else if ('answer' in said) resolve(said.answer);
        else if ('failed' in said) lost(said.failed);
        else reject(new CodedError(said.refused.code, said.refused.params, said.refused.field));
      };
      thread.asker = { hears, lost };
      // What is asked keeps the process, and what rests does not.
      thread.worker.ref();
      thread.worker.postMessage(question);
    });
  }

  async #take(room: number, signal?: AbortSignal): Promise<Thread> {
    while (this.#resting.length === 0 && this.#threads.size >= this.#most)
      await new Promise<void>((resolve) => this.#waiting.push(resolve));
    if (signal?.aborted || this.#closing) {
      this.#waiting.shift()?.();
      throw new CodedError('thread-lost');
    }
    const rested = this.#resting.find((one) => one.room === room);
    if (!rested) {
      // One that rests with another room makes place.
      const [other] = this.#resting;
      if (other && this.#threads.size >= this.#most) void this.#end(other);
      return this.#begin(room);
    }
    this.#resting.splice(this.#resting.indexOf(rested), 1);
    if (rested.rest) clearTimeout(rested.rest);
    return rested;
  }

  #begin(room: number): Thread {
    const told: Told = { options: plainOptions(this.#of.options), file: this.#of.db.name };
    const worker = new Worker(this.#file!, {
      workerData: told,
      resourceLimits: { maxYoungGenerationSizeMb: room }
    });
    const thread: Thread = { worker, room, asker: null, rest: null };
    const lost = (why: string) => {
      void this.#end(thread);
      thread.asker?.lost(why);
    };
    worker.on('message', (said: Said) => thread.asker?.hears(said));
    worker.on('error', (error) => lost(error.stack ?? error.message));
    worker.on('exit', (code) => lost(`The thread ended with ${code}.`));
    worker.unref();
    this.#threads.add(thread);
    return thread;
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
