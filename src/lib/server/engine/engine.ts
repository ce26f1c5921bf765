import { isMachineFault, machineFaultWaitMs } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import type { WorkspaceClock } from './clock.ts';
import { CatchUp, type CatchUpAnswer, type Standing } from './catch-up.ts';
import type { FactsSource } from './facts-source.ts';
import { Replanner } from './replan.ts';
import { Chain, type Happened } from './chain.ts';
import type { WorkingOver } from './working-over.ts';
import { KeeperReports } from './keeper-reports.ts';
import { Departures } from './departures.ts';
import { Leaving } from './leaving.ts';
import { Ringer } from './ringer.ts';
import { Runs, type ActPerformer } from './runs.ts';
import { RuleFaults } from './rule-faults.ts';
import { RushCheck } from './rush.ts';
import { ClockRings } from './clock-rings.ts';
import { ScheduleClocks } from './schedule-clocks.ts';
import { ScheduleRings } from './schedule-rings.ts';
import { Schedules } from './schedules.ts';
import { ClockMoves } from './clock-moves.ts';
import { Slices } from './slices.ts';
import { Standstill } from './standstill.ts';
import type { DigestMaker } from './digest-maker.ts';
import { Digests } from './digests.ts';
import { aTurn, SHORT_SLICE_MS, type SlicePace } from './turn.ts';
import type { Words } from './words.ts';
import type { EngineChores } from './engine-chores.ts';
import { earliest, nextInstant } from './next-instant.ts';

/** Longest sleep between looks at the plan; a change wakes the engine earlier. */
const LONGEST_SLEEP_MS = 30_000;
/** Over which workspace it works. */
interface EngineOf extends WorkingOver {
  clock: WorkspaceClock;
  outbox: Outbox;
}

/**
 * The engine. One tick goes through these states, each in slices that are units of their own, until nothing is left at
 * or before the workspace clock:
 *
 *   sweep    while one is under way, chunk by chunk
 *   re-plan  while tasks are stale, so that nothing ever rings from a stale row
 *   chore    what a task does by itself at or before the next ring: it comes back, or leaves the bin
 *   go on    the runs whose wait is over
 *   ring     the rows of the earliest ring instant, in order, and the schedules of that instant
 *   digest   those of that instant, each with what was kept to come with it
 *   leave    the notices whose leaving instant is not later, in order
 *
 * What has been done is gone from the plan or has left the waiting states, so the database itself is the cursor: a
 * tick that is cut off goes on where it stopped.
 */
export class Engine {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #outbox: Outbox;
  readonly #chain: Chain;
  readonly #slices: Slices;
  readonly #moves: ClockMoves;
  readonly #digests: Digests;
  readonly schedules: Schedules;
  /** Rings over a Watch, for whoever rings by hand. */
  readonly rings: ScheduleRings;
  readonly keeper: KeeperReports;
  readonly faults: RuleFaults;
  readonly rush: RushCheck;
  readonly #onFault: (error: unknown) => void;
  readonly #standstill: Standstill;
  #chores: EngineChores | null = null;
  #pace: SlicePace = { sliceMs: () => SHORT_SLICE_MS, letOthersIn: aTurn };
  #onSlice: (kind: 're-plan' | 'chore' | 'ring', ms: number) => void = () => {};
  /** How many beats in a row have failed. */
  #failures = 0;
  #timer: unknown = null;
  #ticking: Promise<void> | null = null;
  /** How many wait for a tick, besides its own beat. */
  #awaited = 0;
  #started = false;
  #stopping = false;

  constructor(
    { work, stores, source, clock, outbox }: EngineOf,
    say: { words: Words; digests: DigestMaker },
    ruleLink: (ruleId: number) => string,
    performer: ActPerformer,
    onFault: (error: unknown) => void
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#outbox = outbox;
    const of = { work, stores, source };
    const catchUp = new CatchUp();
    this.#standstill = new Standstill(of, clock, catchUp);
    this.keeper = new KeeperReports(stores, source, clock, ruleLink);
    const faults = (this.faults = new RuleFaults(stores, source, this.keeper));
    const clocks = new ScheduleClocks(source, faults);
    const runs = new Runs(work, stores, source, faults);
    const ringer = new Ringer(stores, source, runs, catchUp, faults);
    const chain = (this.#chain = new Chain(of, runs, this.keeper, faults));
    runs.attach(ringer, performer, chain);
    this.rush = new RushCheck(stores, source, this.keeper);
    this.rings = new ScheduleRings(of, chain, new ClockRings(stores, source, ringer, runs), faults);
    const schedules = (this.schedules = new Schedules(of, clocks, this.rings, catchUp));
    const leaving = new Leaving(stores, source, ringer, say.words, faults);
    const digests = (this.#digests = new Digests(of, say.digests, leaving, catchUp, (error, about, now) =>
      this.#slices.fault(error, about, now)
    ));
    const parts = {
      ...{ runs, ringer, chain, schedules, digests, faults },
      replanner: new Replanner(stores, source, clocks, faults),
      departures: new Departures(work, stores, source, leaving, this.rush)
    };
    this.#slices = new Slices(of, clock, parts, onFault);
    this.#moves = new ClockMoves(of, clock, outbox, {
      tick: () => this.tick(),
      nextOfAny: () => this.#nextOfAny(),
      midnightBefore: (instant) => this.rush.midnightBefore(instant),
      forgetPlans: () => {
        schedules.forget();
        digests.forget();
      },
      isStanding: () => this.standing !== null,
      isStopping: () => this.#stopping,
      wake: () => this.wake()
    });
    this.#onFault = onFault;
  }

  /** Who does what tasks do by themselves. */
  attach(chores: EngineChores): void {
    this.#chores = chores;
  }

  /** How long the units of a tick may take, and what is waited for between two of them. */
  attachPace<P extends SlicePace>(pace: P): P {
    return (this.#pace = pace);
  }

  /** Who counts the units of a tick, and how long each took. */
  attachMeter(onSlice: (kind: 're-plan' | 'chore' | 'ring', ms: number) => void): void {
    this.#onSlice = onSlice;
  }

  /** Why it stands still until somebody has answered; null when nobody is asked. */
  get standing(): Standing | null {
    return this.#standstill.standing;
  }

  /** Starts ringing by itself, unless somebody must be asked first. */
  start(): void {
    this.#stopping = false;
    if (this.standing) return;
    this.#standstill.begin();
    this.#jumped();
    this.#started = true;
    this.#schedule(0);
  }

  /** Stands still from now on, until somebody answers. */
  stand(standing: Standing): void {
    this.#standstill.stand(standing);
    this.#started = false;
    this.#clock.machine.clearTimeout(this.#timer);
  }

  /**
   * Somebody has said what is done about what should have rung meanwhile: rings go by that, and then as ever.
   * @throws CodedError `engine-rings` when nobody is asked
   */
  answer(answer: CatchUpAnswer): void {
    this.#standstill.answer(answer);
    this.start();
  }

  /** Stops ringing; a tick under way ends its slice, a move of the clock its instant. */
  async stop(): Promise<void> {
    this.#started = false;
    this.#stopping = true;
    this.#clock.machine.clearTimeout(this.#timer);
    await this.#ticking;
    await this.#moves.ended;
  }

  /** Something changed: looks at the plan soon. */
  wake(): void {
    if (this.#started && !this.#moves.isUnderWay) this.#schedule(0);
  }

  /** What happens in changes from now on is kept, to be heard in the workspace of which this is a copy. */
  hearLater(): void {
    this.#chain.hearsLater = true;
  }

  /** A change was made, in the unit under way: rules that listen ring in it. */
  happened(happened: Happened, now: number): void {
    this.#chain.happened(happened, now);
  }

  /** Whether it rings by itself. */
  get started(): boolean {
    return this.#started;
  }

  /** Whether its last beat could not be written down. */
  get troubled(): boolean {
    return this.#failures > 0;
  }

  /** Whether a move of the clock is under way. */
  get moving(): boolean {
    return this.#moves.isUnderWay;
  }

  /** Re-plans what is stale and rings everything at or before the workspace clock. */
  async tick(): Promise<void> {
    this.#awaited++;
    try {
      await this.#tickAlone();
    } finally {
      this.#awaited--;
    }
  }

  /** Ticks never overlap; one that is asked for meanwhile runs after. */
  async #tickAlone(): Promise<void> {
    while (this.#ticking) await this.#ticking;
    this.#ticking = this.#tickUntil(() => this.#clock.now());
    try {
      await this.#ticking;
    } finally {
      this.#ticking = null;
    }
  }

  /**
   * Moves the workspace clock. Forward it steps through every instant at which something happens, in order, and the
   * outbox drains after each; back it only turns the hands: nothing that left rings again.
   * @param to workspace clock, ms
   * @throws CodedError `clock-not-movable`, `clock-busy` or `clock-too-far`
   */
  moveClock(to: number, onInstant: (instant: number) => void = () => {}): Promise<void> {
    return this.#moves.moveTo(to, onInstant);
  }

  /** The next instant at which something rings or leaves; null when nothing is planned. */
  nextInstant(): number | null {
    return nextInstant(this.#stores, this.#digests);
  }

  /** The next instant at which something rings, leaves or is done by a task itself. */
  #nextOfAny(): number | null {
    return earliest(this.#chores?.nextAt() ?? null, this.nextInstant());
  }

  async #tickUntil(now: () => number): Promise<void> {
    for (;;) {
      await this.#work.returned();
      this.#work.run(() => {
        this.schedules.sync(now());
        this.#digests.sync(now());
        if (this.#stores.plan.isStale) return;
        this.#slices.forgetPlanning();
        this.#stores.plan.allPlanned();
      });
      if (this.#chores?.isUnderWay()) this.#chore(now());
      else if (this.#stores.plan.isStale)
        this.#slice('re-plan', (until) => this.#slices.replan(now(), until));
      else {
        // Whoever asks for a tick, an undo too, comes by here.
        if (this.#isHeld()) return;
        this.#work.run(() => {
          this.rush.sync(now());
          this.faults.tellKeepers(now());
        });
        // A slice of what is heard and one of what rings take turns: neither keeps the other waiting for long.
        const owes = this.#chain.owes;
        if (owes) this.#slice('ring', (until) => this.#slices.hear(now(), until));
        const at = this.#nextOfAny();
        if (at === null || at > now()) {
          if (!owes) return this.#standstill.caughtUp();
        } else if (this.#chores?.nextAt() === at) this.#chore(now());
        else this.#slice('ring', (until) => this.#slices.ring(at, now(), until));
      }
      // Whoever waits for it may be a request themselves: it must not wait for that in turn.
      await (this.#awaited > 0 ? aTurn() : this.#pace.letOthersIn());
      // What is left waits in the database, and is gone on with at the next start.
      if (this.#stopping) return;
    }
  }

  /**
   * Does everything that is due by now in one go, inside the unit under way: for whoever tries something out, and takes it back. A sweep that is
   * under way stands still meanwhile. Nothing is delivered.
   * @throws TypeError where no unit is under way: it would hold everybody
   */
  settle(): void {
    if (!this.#work.isOpen) throw new TypeError('What is due is done in one go only to be tried out.');
    // The ids of changes that were tried out are given again.
    this.#work.onRollback(() => this.#slices.forgetPlanning());
    const now = this.#clock.now();
    const sweeping = this.#chores?.isUnderWay() ?? false;
    for (;;) {
      this.schedules.sync(now);
      this.#digests.sync(now);
      if (this.#stores.plan.isStale) {
        this.#slices.replan(now, Infinity);
        continue;
      }
      this.#stores.plan.allPlanned();
      // An engine that stands and asks rings nothing until it is answered.
      if (this.standing) return;
      if (this.#chain.owes) {
        this.#slices.hear(now, Infinity);
        continue;
      }
      const chore = sweeping ? null : (this.#chores?.nextAt() ?? null);
      const at = earliest(chore, this.nextInstant());
      if (at === null || at > now) return;
      if (chore === at) this.#chore(now);
      else this.#slices.ring(at, now, Infinity);
    }
  }

  #chore(now: number): void {
    const began = this.#clock.machine.now();
    try {
      this.#chores!.runOne(now);
      this.#onSlice('chore', this.#clock.machine.now() - began);
    } catch (error) {
      if (isMachineFault(error)) throw error;
      this.#work.run(() => this.#slices.fault(error, {}, now));
    }
  }

  #slice(kind: 're-plan' | 'ring', work: (until: number) => void): void {
    const began = this.#clock.machine.now();
    this.#work.run(() => work(began + this.#pace.sliceMs()));
    this.#onSlice(kind, this.#clock.machine.now() - began);
  }

  #schedule(ms: number): void {
    const { machine } = this.#clock;
    machine.clearTimeout(this.#timer);
    this.#timer = machine.setTimeout(() => void this.#beat(), ms);
  }

  /** Whether the wall clock of the machine has jumped since the last beat: then it stands and asks. */
  #jumped(): boolean {
    const jumped = this.#standstill.jumped();
    if (jumped) this.stand(jumped);
    return jumped !== null;
  }

  /** Whether nothing may ring before somebody has answered. */
  #isHeld(): boolean {
    return this.#jumped() || this.standing !== null;
  }

  /** What looks at all tasks is read between the slices of others, so that no page waits for it. */
  async #readOn(): Promise<void> {
    for (;;) {
      const until = this.#clock.machine.now() + SHORT_SLICE_MS;
      if (this.#source.readOn(() => this.#clock.machine.now() >= until) || this.#stopping) return;
      await this.#pace.letOthersIn();
    }
  }

  async #beat(): Promise<void> {
    try {
      await this.#work.returned();
      if (this.#isHeld()) return;
      if (!this.#moves.isUnderWay) await this.#tickAlone();
      await this.#readOn();
      await this.#work.returned();
      this.#standstill.seen(LONGEST_SLEEP_MS);
      this.#outbox.wake();
      this.#failures = 0;
    } catch (error) {
      this.#failures++;
      this.#onFault(error);
    }
    if (!this.#started) return;
    // What could not be written is not tried again as fast as the machine can: nothing else would run beside it.
    if (this.#failures > 0) return this.#schedule(machineFaultWaitMs(this.#failures));
    const next = this.#nextOfAny();
    const wait = next === null || !this.#clock.running ? LONGEST_SLEEP_MS : next - this.#clock.now();
    this.#schedule(Math.max(1, Math.min(wait, LONGEST_SLEEP_MS)));
  }
}
