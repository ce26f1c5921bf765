import { CodedError } from '../../core/errors.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Threads } from '../threads/threads.ts';
import { doAct, type Act, type ActName, type Outcomes } from './acts.ts';
import { sizeOf, type LookServices } from './looks.ts';
import type { TryOuts } from './try-outs.ts';

/** So many tasks, or rows of a change, are changed sooner than a thread has read its code. */
const MOST_ON_THE_SPOT = 400;

/** What is asked to do them. */
type Services = LookServices & { outbox: Outbox };

/**
 * Does acts: those on a few tasks on the spot, those on many in a thread, over the workspace itself. Meanwhile everybody goes on reading, and
 * whoever writes waits.
 */
export class LongActs {
  readonly #app: () => Services;
  readonly #writers: Threads;
  readonly #tryOuts: TryOuts;

  constructor(app: () => Services, writers: Threads, tryOuts: TryOuts) {
    this.#app = app;
    this.#writers = writers;
    this.#tryOuts = tryOuts;
  }

  /**
   * @param stamp of what was said of it beforehand; null where nobody had looked
   * @throws CodedError `preview-stale`, `act-lost`, or what keeps it from being done
   */
  async do<N extends ActName>(
    personId: number,
    act: Act<N>,
    stamp: string | null = null
  ): Promise<Outcomes[N]> {
    const app = this.#app();
    const fresh = await this.#tryOuts.lookAgain(personId, act, stamp);
    if (!this.#writers.areThere || sizeOf(app, personId, act) <= MOST_ON_THE_SPOT) {
      // Looking again may have taken long, and another may write by now.
      await app.work.returned();
      return doAct(app, personId, act, fresh);
    }
    return (await app.work.lend(() => this.#write(personId, act, fresh))) as Outcomes[N];
  }

  async #write(personId: number, act: Act, stamp: string | null): Promise<Outcomes[ActName]> {
    const { clock, source, committer, outbox } = this.#app();
    const at = { workspaceMs: clock.now(), machineMs: clock.machine.now() };
    try {
      const { outcome, changes } = await this.#writers.ask(
        'act',
        { personId, act, stamp, at },
        { ends: true }
      );
      for (const change of changes) committer.tookIn(change);
      outbox.wake();
      return outcome;
    } catch (failure) {
      // Whether it was done is not known where nothing was answered: nothing that was read before is believed.
      source.invalidate();
      const isLost = failure instanceof CodedError && failure.code === 'thread-lost';
      throw isLost ? new CodedError('act-lost') : failure;
    }
  }
}
