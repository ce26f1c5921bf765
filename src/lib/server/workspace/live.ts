import { tablesWhere } from '../store/recorded-tables.ts';
import type { CommittedChange } from './commit.ts';

/** Streams of one person at once: browsers keep six lines at most to one address, and the sixth is for everything else. */
export const MOST_STREAMS = 5;
/** Events that may wait for a page that does not read; then its stream ends, and the page opens another. */
const MOST_WAITING = 100;
/** Tables of which each row belongs to one task: whoever sees none of the tasks that a change touched hears nothing of it. */
const OF_TASKS = tablesWhere(({ of }) => of === 'task');

/** One open page. */
interface Stream {
  personId: number;
  /** The session by which it was opened: with it the stream ends. */
  session: string;
  controller: ReadableStreamDefaultController<Uint8Array>;
}

/** What is asked of whoever has a page open. */
export interface LiveRights {
  /** Whether a session still lets somebody in. */
  isOpen(session: string): boolean;
  /** Whether somebody sees one of these tasks. */
  sees(personId: number, taskIds: ReadonlySet<number>): boolean;
}

/**
 * Tells open pages by server-sent events that there is something new to read: that, and nothing of it. Pages then ask for what they show, as
 * always.
 */
export class LiveUpdates {
  readonly #rights: LiveRights;
  readonly #streams = new Set<Stream>();
  readonly #encoder = new TextEncoder();

  constructor(rights: LiveRights) {
    this.#rights = rights;
  }

  /**
   * A stream of events for one page, until the page goes, its session ends or the server stops.
   * @returns null where the person has as many open as they may
   */
  open(personId: number, session: string): ReadableStream<Uint8Array> | null {
    const own = [...this.#streams].filter((stream) => stream.personId === personId);
    if (own.length >= MOST_STREAMS) return null;
    let stream: Stream;
    return new ReadableStream({
      start: (controller) => {
        stream = { personId, session, controller };
        this.#streams.add(stream);
        this.#say(stream, 'retry: 3000\n\n');
      },
      cancel: () => void this.#streams.delete(stream)
    });
  }

  /** Ends every stream: the server stops. */
  close(): void {
    for (const stream of this.#streams) this.#end(stream);
  }

  /** Ends the streams whose session has ended. */
  review(): void {
    for (const stream of this.#streams) if (!this.#rights.isOpen(stream.session)) this.#end(stream);
  }

  /** Pages of those who see something of a change hear that there is one. */
  tellChange({ tables, taskIds }: Pick<CommittedChange, 'tables' | 'taskIds'>): void {
    const hears = new Map<number, boolean>();
    const isWide = [...tables].some((table) => !OF_TASKS.has(table));
    for (const stream of this.#streams) {
      const { personId } = stream;
      if (!isWide && !hears.has(personId)) hears.set(personId, this.#rights.sees(personId, taskIds));
      if (isWide || hears.get(personId)) this.#tell(stream, 'change');
    }
  }

  /** Pages of one person hear that something new stands behind their bell. */
  tellNotice(personId: number): void {
    for (const stream of this.#streams) if (stream.personId === personId) this.#tell(stream, 'notice');
  }

  #tell(stream: Stream, event: 'change' | 'notice'): void {
    if (this.#rights.isOpen(stream.session)) this.#say(stream, `event: ${event}\ndata: {}\n\n`);
    else this.#end(stream);
  }

  #say(stream: Stream, words: string): void {
    // What is negative waits: one that reads nothing would be kept for in memory without end.
    if ((stream.controller.desiredSize ?? 0) < -MOST_WAITING) return this.#end(stream);
    stream.controller.enqueue(this.#encoder.encode(words));
  }

  #end(stream: Stream): void {
    this.#streams.delete(stream);
    stream.controller.close();
  }
}
