import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { WorkspaceClock } from './clock.ts';
import type { WorkingOver } from './working-over.ts';

/** A move of the clock waits so long for a message to be taken, and not longer: what is slow is taken later. */
const PATIENCE_MS = 2_000;
/** Farthest one move of the clock goes. */
const FARTHEST_MOVE_DAYS = 400;

/** What of the engine goes on as its clock is moved. */
interface Moved {
  tick(): Promise<void>;
  /** The next instant at which something rings, leaves or is done by a task itself; null when nothing is planned. */
  nextOfAny(): number | null;
  /** The beginning of the day of an instant, where a day begins before it. */
  midnightBefore(instant: number): number;
  /** What schedules and digests have planned is planned anew. */
  forgetPlans(): void;
  isStanding(): boolean;
  isStopping(): boolean;
  wake(): void;
}

/** Moves of a clock that can be moved: forward through every instant in its order, back without ringing anything again. */
export class ClockMoves {
  readonly #work: WorkingOver['work'];
  readonly #stores: WorkingOver['stores'];
  readonly #clock: WorkspaceClock;
  readonly #outbox: Outbox;
  readonly #engine: Moved;
  isUnderWay = false;
  /** The end of the move under way; never rejects. */
  ended: Promise<unknown> = Promise.resolve();

  constructor({ work, stores }: WorkingOver, clock: WorkspaceClock, outbox: Outbox, engine: Moved) {
    this.#work = work;
    this.#stores = stores;
    this.#clock = clock;
    this.#outbox = outbox;
    this.#engine = engine;
  }

  /**
   * Moves the workspace clock. Forward it steps through every instant at which something happens, in order, and the
   * outbox drains after each; back it only turns the hands: nothing that left rings again.
   * @param to workspace clock, ms
   * @throws CodedError `clock-not-movable`, `clock-busy`, `engine-stands` or `clock-too-far`
   */
  async moveTo(to: number, onInstant: (instant: number) => void): Promise<void> {
    if (!this.#clock.movable) throw new CodedError('clock-not-movable');
    if (this.isUnderWay) throw new CodedError('clock-busy');
    if (this.#engine.isStanding()) throw new CodedError('engine-stands');
    if (Math.abs(to - this.#clock.now()) > FARTHEST_MOVE_DAYS * MS_PER_DAY) {
      throw new CodedError('clock-too-far', { most: FARTHEST_MOVE_DAYS });
    }
    this.isUnderWay = true;
    const moved = this.#go(to, onInstant);
    this.ended = moved.catch(() => {});
    await moved;
  }

  async #go(to: number, onInstant: (instant: number) => void): Promise<void> {
    const running = this.#clock.running;
    try {
      // Held still on the way, so that each instant is met exactly.
      this.#clock.set(this.#clock.now(), false);
      await this.#engine.tick();
      for (
        let next = this.#engine.nextOfAny();
        next !== null && next <= to;
        next = this.#engine.nextOfAny()
      ) {
        // What a day will bring is foreseen as it begins, and not once its first ring has come.
        const midnight = this.#engine.midnightBefore(next);
        if (midnight > this.#clock.now()) {
          this.#clock.set(midnight, false);
          await this.#engine.tick();
        }
        // Before anything rings: what has left is never ahead of a clock that a kill has stopped on the way.
        await this.#stopAt(Math.max(next, this.#clock.now()));
        await this.#engine.tick();
        await this.#outbox.drain(PATIENCE_MS);
        onInstant(next);
        // The application ends: the clock stays where everything has rung.
        if (this.#engine.isStopping()) return;
      }
      if (to < this.#clock.now()) this.#turnBack(to);
      await this.#stopAt(to);
      await this.#engine.tick();
      await this.#outbox.drain(PATIENCE_MS);
    } finally {
      this.#clock.set(this.#clock.now(), running);
      this.isUnderWay = false;
      this.#engine.wake();
      await this.#work.returned();
      this.#keepClock();
    }
  }

  /** Holds the clock still at an instant of its way, and keeps that. */
  async #stopAt(instant: number): Promise<void> {
    this.#clock.set(instant, false);
    await this.#work.returned();
    this.#keepClock();
  }

  /** Where a clock that was moved stands outlives the process. */
  #keepClock(): void {
    this.#work.run(() => this.#stores.engineState.write('clock', this.#clock.state()));
  }

  /** Rings between the new moment and now are ahead again, except those that have left. */
  #turnBack(to: number): void {
    this.#work.run(() => {
      this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'clock turned back', { to });
      this.#stores.plan.enqueueAll();
      this.#engine.forgetPlans();
    });
  }
}
