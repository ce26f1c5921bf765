import type { CommittedChange } from './commit.ts';

/** What an open page hears of a change: enough to know whether it shows something of it. */
export interface LiveChange {
  changeId: number;
  actorId: number | null;
  tables: string[];
  /** Tasks it touched, unless there were very many. */
  taskIds: number[] | null;
}

/** More tasks than this are not named one by one. */
const MOST_NAMED = 200;

/** Tells open pages of changes by server-sent events. */
export class LiveUpdates {
  /** Each page with who looks at it. */
  readonly #streams = new Map<ReadableStreamDefaultController<Uint8Array>, number>();
  readonly #encoder = new TextEncoder();

  /** A stream of events for one page, until the page goes or the server stops. */
  open(personId: number): ReadableStream<Uint8Array> {
    let own: ReadableStreamDefaultController<Uint8Array>;
    return new ReadableStream({
      start: (controller) => {
        own = controller;
        this.#streams.set(controller, personId);
        controller.enqueue(this.#encoder.encode('retry: 3000\n\n'));
      },
      cancel: () => void this.#streams.delete(own)
    });
  }

  /** Ends every stream: the server stops. */
  close(): void {
    for (const stream of this.#streams.keys()) stream.close();
    this.#streams.clear();
  }

  /** Pages hear of a change. */
  tellChange({ changeId, actorId, tables, taskIds }: CommittedChange): void {
    if (this.#streams.size === 0) return;
    const change: LiveChange = {
      changeId,
      actorId,
      tables: [...tables],
      taskIds: taskIds.size > MOST_NAMED ? null : [...taskIds]
    };
    const bytes = this.#encoder.encode(`event: change\ndata: ${JSON.stringify(change)}\n\n`);
    for (const stream of this.#streams.keys()) stream.enqueue(bytes);
  }

  /** Pages of one person hear that something new stands behind their bell. */
  tellNotice(personId: number): void {
    const bytes = this.#encoder.encode('event: notice\ndata: {}\n\n');
    for (const [stream, who] of this.#streams) if (who === personId) stream.enqueue(bytes);
  }
}
