import { CodedError } from '../../core/errors.ts';
import { isSameEffect } from '../effect/effects.ts';
import type { OnPart, Threads } from '../threads/threads.ts';
import type { Asked } from './asked.ts';
import { isLong, lookAt, type LookServices } from './looks.ts';

/**
 * Where acts are looked at before they are done: those on a few tasks on the spot, those on many on a copy in a thread of its own, so that nobody
 * has to wait for the looks of another.
 */
export class TryOuts {
  readonly #app: () => LookServices;
  readonly #threads: Threads;

  constructor(app: () => LookServices, threads: Threads) {
    this.#app = app;
    this.#threads = threads;
  }

  /**
   * What an act would do.
   * @param signal whoever asked wants to know no more
   * @throws CodedError what keeps it from being done, or `preview-failed`
   */
  async look(personId: number, asked: Asked, onPart?: OnPart, signal?: AbortSignal): Promise<unknown> {
    const app = this.#app();
    const { clock } = app;
    if (!this.#threads.areThere || !isLong(app, personId, asked)) return lookAt(app, personId, asked);
    const at = { workspaceMs: clock.now(), machineMs: clock.machine.now() };
    try {
      return await this.#threads.ask(
        'look',
        { personId, asked, at },
        { ...(onPart ? { onPart } : {}), signal }
      );
    } catch (failure) {
      if (failure instanceof CodedError && failure.code === 'thread-lost')
        throw new CodedError('preview-failed');
      throw failure;
    }
  }

  /**
   * Before a long act is done that was looked at: looks again, where something has happened since.
   * @param stamp of what was said; null where nobody had looked
   * @returns the stamp by which it is done
   * @throws CodedError `preview-stale`, or as `look`
   */
  async lookAgain(personId: number, asked: Asked, stamp: string | null): Promise<string | null> {
    const app = this.#app();
    if (stamp === null || !this.#threads.areThere) return stamp;
    if (app.effects.isFresh(stamp) || !isLong(app, personId, asked)) return stamp;
    const fresh = stampIn(await this.look(personId, asked));
    if (!isSameEffect(stamp, fresh)) throw new CodedError('preview-stale');
    return fresh;
  }
}

/** The stamp of what was said, wherever it stands in it. */
function stampIn(said: unknown): string | null {
  const { stamp, effect } = said as { stamp?: string; effect?: { stamp?: string | null } };
  return stamp ?? effect?.stamp ?? null;
}
