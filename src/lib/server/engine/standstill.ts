import { CodedError } from '../../core/errors.ts';
import type { CatchUp, CatchUpAnswer, Standing } from './catch-up.ts';
import type { WorkspaceClock } from './clock.ts';
import type { WorkingOver } from './working-over.ts';

/** It did not run for as long as this: that is told. */
const DOWN_MS = 2 * 60_000;
/** A wall clock that has moved by this much against the machine’s own time has jumped. */
const JUMP_MS = 3_600_000;

/** Time in which the engine did not run, and what is done about it: where it cannot know that by itself, it stands still and asks. */
export class Standstill {
  readonly #work: WorkingOver['work'];
  readonly #stores: WorkingOver['stores'];
  readonly #clock: WorkspaceClock;
  readonly #catchUp: CatchUp;
  #lastSeen = 0;
  #lastBeat: { wall: number; steady: number } | null = null;

  constructor({ work, stores }: WorkingOver, clock: WorkspaceClock, catchUp: CatchUp) {
    this.#work = work;
    this.#stores = stores;
    this.#clock = clock;
    this.#catchUp = catchUp;
  }

  /** Why it stands still until somebody has answered; null when nobody is asked. */
  get standing(): Standing | null {
    const standing = this.#stores.engineState.read<Standing | null>('standing');
    return standing?.answer === null ? standing : null;
  }

  /** It begins to ring: an answer that was given, and not followed to its end, is followed now. */
  begin(): void {
    this.#noteDowntime();
    const answered = this.#stores.engineState.read<Standing | null>('standing');
    this.#catchUp.answer = answered?.answer ?? null;
    this.#catchUp.until = answered?.until ?? 0;
  }

  /** Time in which it did not run, where it goes by the machine's own clock: what should have rung then leaves late, or not at all. */
  #noteDowntime(): void {
    if (this.#clock.movable) return;
    const { engineState } = this.#stores;
    const now = this.#clock.now();
    const seen = engineState.read<number>('seen');
    this.#work.run(() => {
      if (seen !== null && now - seen > DOWN_MS) engineState.write('downtime', { from: seen, until: now });
      engineState.write('seen', now);
    });
  }

  /** It stands still from now on. */
  stand(standing: Standing): void {
    this.#work.run(() => this.#stores.engineState.write('standing', standing));
  }

  /**
   * Somebody has said what is done about what should have rung meanwhile: rings go by that, and then as ever.
   * @throws CodedError `engine-rings` when nobody is asked
   */
  answer(answer: CatchUpAnswer): void {
    const { standing } = this;
    if (!standing) throw new CodedError('engine-rings');
    const now = this.#clock.now();
    this.#work.run(() => {
      const { engineState, notices, outbox, journal, runs } = this.#stores;
      // What came to be due while it stood is meant as well.
      engineState.write('standing', { ...standing, answer, until: Math.max(standing.until, now) });
      journal.add(now, this.#clock.machine.now(), 'catching up', { ...standing, answer });
      if (answer !== 'pass over') return;
      for (const run of runs.dueBy(now)) runs.end(run.id, 'stopped', 'passed over', now, run.own);
      for (const notice of notices.leaving(now)) notices.end(notice, 'unrung', 'passed over', now);
      for (const id of outbox.abandon('skipped: it may have been sent before', this.#clock.machine.now()))
        notices.end(notices.byId(id)!, 'in doubt', 'it may have been sent before the restore', now);
    });
  }

  /** Everything that should have rung is done with: from now on each rule goes by its own choice again. */
  caughtUp(): void {
    if (this.#catchUp.answer === null) return;
    this.#work.run(() => this.#stores.engineState.write('standing', null));
    this.#catchUp.answer = null;
  }

  /** Whether the wall clock of the machine has jumped since it was last asked: its own time went on otherwise. @returns what is asked then */
  jumped(): Standing | null {
    const { machine } = this.#clock;
    const [wall, steady] = [machine.now(), machine.steadyMs()];
    const last = this.#lastBeat;
    this.#lastBeat = { wall, steady };
    if (this.#clock.movable || last === null) return null;
    const jump = wall - last.wall - (steady - last.steady);
    if (Math.abs(jump) < JUMP_MS) return null;
    return { why: 'the clock jumped', since: last.wall, until: wall, answer: null };
  }

  /** Writes down, now and then, that it runs: after a stop it is known since when it did not. */
  seen(everyMs: number): void {
    const now = this.#clock.now();
    if (this.#clock.movable || now - this.#lastSeen < everyMs) return;
    this.#lastSeen = now;
    this.#work.run(() => this.#stores.engineState.write('seen', now));
  }
}
