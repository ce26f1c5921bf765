import { CodedError } from '../../core/errors.ts';
import { aTurn } from '../engine/turn.ts';
import { LATER, type LaterName, type LaterServices, type LaterView } from '../workspace/later.ts';
import { signedInAs } from '../workspace/signed-in.ts';
import { Forgotten } from './forgotten.ts';
import type { Threads } from './threads.ts';

/** What takes long to be computed, and comes after its page: worked out in a thread that reads the workspace, so that nobody waits for it. */
export class LaterViews {
  readonly #app: () => LaterServices;
  readonly #readers: Threads;
  readonly #forgotten = new Forgotten();
  #isListening = false;
  /** What is asked and not begun. */
  readonly #waiting = new Map<string, Promise<unknown>>();

  /** @param readers of which each keeps what it has read from one question to the next */
  constructor(app: () => LaterServices, readers: Threads) {
    this.#app = app;
    this.#readers = readers;
  }

  /** Begins before anybody asks. */
  ready(): void {
    this.#listen();
    this.#readers.ready('view');
  }

  /**
   * @param args as the view takes them; plain data
   * @throws CodedError what keeps it from being shown, `thread-lost` where it could not be worked out
   */
  async view<N extends LaterName>(
    name: N,
    personId: number,
    args: LaterView<N>['args']
  ): Promise<LaterView<N>['view']> {
    const app = this.#app();
    const view = LATER[name];
    if (!this.#readers.areThere) {
      // The page goes first.
      await aTurn();
      const person = app.stores.people.byId(personId);
      if (!person) throw new CodedError('person-gone');
      return view(app, signedInAs(person, app.stores), args as never) as LaterView<N>['view'];
    }
    this.#listen();
    // Whoever asks for what has been asked and is not begun yet is answered with it.
    const key = JSON.stringify([name, personId, args]);
    const known = this.#waiting.get(key);
    if (known) return known as Promise<LaterView<N>['view']>;
    const { clock, stores } = app;
    const asked = this.#readers.ask('view', () => {
      this.#waiting.delete(key);
      return {
        ...{ name, personId, args },
        at: { workspaceMs: clock.now(), machineMs: clock.machine.now() },
        forgotten: this.#forgotten.take(),
        lastChange: stores.changes.lastId()
      };
    });
    this.#waiting.set(key, asked);
    try {
      return (await asked) as LaterView<N>['view'];
    } finally {
      // What was lost before it began is asked anew.
      if (this.#waiting.get(key) === asked) this.#waiting.delete(key);
    }
  }

  /** The same of several things, one after the other: what others ask meanwhile comes in between. */
  async each<N extends LaterName>(
    name: N,
    personId: number,
    all: readonly LaterView<N>['args'][]
  ): Promise<LaterView<N>['view'][]> {
    const views: LaterView<N>['view'][] = [];
    for (const args of all) views.push(await this.view(name, personId, args));
    return views;
  }

  #listen(): void {
    if (this.#isListening) return;
    this.#isListening = true;
    this.#app().source.listen(this.#forgotten);
  }
}
