import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { isMachineFault, machineFaultWaitMs } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import { NO_TASK } from '../store/rule-faults.ts';
import type { WorkspaceClock } from './clock.ts';
import { CatchUp, type CatchUpAnswer, type Standing } from './catch-up.ts';
import type { FactsSource } from './facts-source.ts';
import { Replanner } from './replan.ts';
import { Chain, type Happened } from './chain.ts';
import type { WorkingOver } from './working-over.ts';
import { Keeper } from './keeper.ts';
import { Departures } from './departures.ts';
import { Leaving } from './leaving.ts';
import { Ringer } from './ringer.ts';
import { Runs, type ActPerformer } from './runs.ts';
import { RuleFaults, faultWords } from './rule-faults.ts';
import { RushCheck } from './rush.ts';
import { ClockRings } from './clock-rings.ts';
import { ScheduleClocks } from './schedule-clocks.ts';
import { ScheduleRings } from './schedule-rings.ts';
import { Schedules } from './schedules.ts';
import type { DigestMaker } from './digest-maker.ts';
import { Digests } from './digests.ts';
import { aTurn, SHORT_SLICE_MS, type SlicePace } from './turn.ts';
import type { Words } from './words.ts';

/** Stale tasks that are read at once: about what a slice can plan. */
const STALE_AT_ONCE = 100;
/** Tasks whose events are read at once. */
const HEARD_AT_ONCE = 100;
/** Longest sleep between looks at the plan; a change wakes the engine earlier. */
const LONGEST_SLEEP_MS = 30_000;
/** What one change makes stale is planned as of one moment for so long: less than after which a ring is late. */
const LONGEST_PLANNING_MS = 30_000;
/** It did not run for as long as this: that is told. */
const DOWN_MS = 2 * 60_000;
/** A wall clock that has moved by this much against the machine’s own time has jumped. */
const JUMP_MS = 3_600_000;
/** A move of the clock waits so long for a message to be taken, and not longer: what is slow is taken later. */
const PATIENCE_MS = 2_000;
/** Farthest one move of the clock goes. */
const FARTHEST_MOVE_DAYS = 400;

/** What tasks do by themselves at an instant, and what sweeps do to them; done between slices, each in a change of its own. */
export interface EngineChores {
  nextAt(): number | null;
  runOne(now: number): void;
  /** Something long is half-way: its next slice comes before plans are made again, of which it would make more. */
  isUnderWay(): boolean;
}

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
  readonly #replanner: Replanner;
  readonly #ringer: Ringer;
  readonly #runs: Runs;
  readonly #chain: Chain;
  readonly #departures: Departures;
  readonly #digests: Digests;
  readonly schedules: Schedules;
  /** Rings over a Watch, for whoever rings by hand. */
  readonly rings: ScheduleRings;
  readonly keeper: Keeper;
  readonly faults: RuleFaults;
  readonly rush: RushCheck;
  readonly #onFault: (error: unknown) => void;
  /** Since when what a change made stale is being planned anew; empty once nothing is stale. */
  readonly #planning = new Map<number, number>();
  readonly #catchUp = new CatchUp();
  #chores: EngineChores | null = null;
  #pace: SlicePace = { sliceMs: () => SHORT_SLICE_MS, breath: aTurn };
  #onSlice: (kind: 're-plan' | 'chore' | 'ring', ms: number) => void = () => {};
  /** How many beats in a row have failed. */
  #failures = 0;
  #timer: unknown = null;
  #ticking: Promise<void> | null = null;
  /** How many wait for a tick, besides its own beat. */
  #awaited = 0;
  #moving = false;
  /** The move of the clock under way; never rejects. */
  #move: Promise<unknown> = Promise.resolve();
  #started = false;
  #stopping = false;
  #lastSeen = 0;
  #lastBeat: { wall: number; steady: number } | null = null;

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
    this.keeper = new Keeper(stores, source, clock, ruleLink);
    this.faults = new RuleFaults(stores, source, this.keeper);
    const clocks = new ScheduleClocks(source, this.faults);
    this.#replanner = new Replanner(stores, source, clocks, this.faults);
    this.#runs = new Runs(work, stores, source, this.faults);
    this.#ringer = new Ringer(stores, source, this.#runs, this.#catchUp, this.faults);
    const clockRings = new ClockRings(stores, source, this.#ringer, this.#runs);
    this.#chain = new Chain({ work, stores, source }, this.#runs, this.keeper, this.faults);
    this.#runs.attach(this.#ringer, performer, this.#chain);
    this.rush = new RushCheck(stores, source, this.keeper);
    this.rings = new ScheduleRings({ work, stores, source }, this.#chain, clockRings, this.faults);
    this.schedules = new Schedules({ work, stores, source }, clocks, this.rings, this.#catchUp);
    const leaving = new Leaving(stores, source, this.#ringer, say.words, this.faults);
    this.#departures = new Departures(work, stores, source, leaving, this.rush);
    this.#digests = new Digests(
      { work, stores, source },
      say.digests,
      leaving,
      this.#catchUp,
      (error, about, now) => this.#fault(error, about, now)
    );
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
    const standing = this.#stores.engineState.read<Standing | null>('standing');
    return standing?.answer === null ? standing : null;
  }

  /** Starts ringing by itself, unless somebody must be asked first. */
  start(): void {
    this.#stopping = false;
    if (this.standing) return;
    this.#noteDowntime();
    // An answer that was given, and not followed to its end, is followed now.
    const answered = this.#stores.engineState.read<Standing | null>('standing');
    this.#catchUp.answer = answered?.answer ?? null;
    this.#catchUp.until = answered?.until ?? 0;
    this.#jumped();
    this.#started = true;
    this.#schedule(0);
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

  /** Stands still from now on, until somebody answers. */
  stand(standing: Standing): void {
    this.#work.run(() => this.#stores.engineState.write('standing', standing));
    this.#started = false;
    this.#clock.machine.clearTimeout(this.#timer);
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
      for (const id of outbox.abandon('passed over: it may have left before', this.#clock.machine.now()))
        notices.end(notices.byId(id)!, 'in doubt', 'it may have left before the restore', now);
    });
    this.start();
  }

  /** Stops ringing; a tick under way ends its slice, a move of the clock its instant. */
  async stop(): Promise<void> {
    this.#started = false;
    this.#stopping = true;
    this.#clock.machine.clearTimeout(this.#timer);
    await this.#ticking;
    await this.#move;
  }

  /** Something changed: looks at the plan soon. */
  wake(): void {
    if (this.#started && !this.#moving) this.#schedule(0);
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
    return this.#moving;
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
  async moveClock(to: number, onInstant: (instant: number) => void = () => {}): Promise<void> {
    if (!this.#clock.movable) throw new CodedError('clock-not-movable');
    if (this.#moving) throw new CodedError('clock-busy');
    if (this.standing) throw new CodedError('engine-stands');
    if (Math.abs(to - this.#clock.now()) > FARTHEST_MOVE_DAYS * MS_PER_DAY) {
      throw new CodedError('clock-too-far', { most: FARTHEST_MOVE_DAYS });
    }
    this.#moving = true;
    const moved = this.#moveTo(to, onInstant);
    this.#move = moved.catch(() => {});
    await moved;
  }

  async #moveTo(to: number, onInstant: (instant: number) => void): Promise<void> {
    const running = this.#clock.running;
    try {
      // Held still on the way, so that each instant is met exactly.
      this.#clock.set(this.#clock.now(), false);
      await this.tick();
      for (let next = this.#nextOfAny(); next !== null && next <= to; next = this.#nextOfAny()) {
        // What a day will bring is foreseen as it begins, and not once its first ring has come.
        const midnight = this.rush.midnightBefore(next);
        if (midnight > this.#clock.now()) {
          this.#clock.set(midnight, false);
          await this.tick();
        }
        this.#clock.set(Math.max(next, this.#clock.now()), false);
        await this.tick();
        await this.#outbox.drain(PATIENCE_MS);
        onInstant(next);
        await this.#work.returned();
        this.#keepClock();
        // The application ends: the clock stays where everything has rung.
        if (this.#stopping) return;
      }
      if (to < this.#clock.now()) this.#turnBack(to);
      this.#clock.set(to, false);
      await this.tick();
      await this.#outbox.drain(PATIENCE_MS);
    } finally {
      this.#clock.set(this.#clock.now(), running);
      this.#moving = false;
      this.wake();
      await this.#work.returned();
      this.#keepClock();
    }
  }

  /** Where a clock that was moved stands outlives the process. */
  #keepClock(): void {
    this.#work.run(() => this.#stores.engineState.write('clock', this.#clock.state()));
  }

  /** The next instant at which something rings or leaves; null when nothing is planned. */
  nextInstant(): number | null {
    return this.#nextInstant();
  }

  /** Rings between the new moment and now are ahead again, except those that have left. */
  #turnBack(to: number): void {
    this.#work.run(() => {
      this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'clock turned back', { to });
      this.#stores.plan.enqueueAll();
      this.schedules.forget();
      this.#digests.forget();
    });
  }

  #nextInstant(): number | null {
    const { plan, notices, runs, schedules } = this.#stores;
    return earliest(
      plan.nextInstant(),
      notices.nextLeaving(),
      runs.nextAt(),
      schedules.nextAt(),
      this.#digests.nextAt()
    );
  }

  /** The next instant at which something rings, leaves or is done by a task itself. */
  #nextOfAny(): number | null {
    return earliest(this.#chores?.nextAt() ?? null, this.#nextInstant());
  }

  async #tickUntil(now: () => number): Promise<void> {
    for (;;) {
      await this.#work.returned();
      this.#work.run(() => {
        this.schedules.sync(now());
        this.#digests.sync(now());
        if (this.#stores.plan.isStale) return;
        this.#planning.clear();
        this.#stores.plan.allPlanned();
      });
      if (this.#chores?.isUnderWay()) this.#chore(now());
      else if (this.#stores.plan.isStale) this.#slice('re-plan', (until) => this.#replanSlice(now(), until));
      else {
        // Whoever asks for a tick, an undo too, comes by here.
        if (this.#isHeld()) return;
        this.#work.run(() => {
          this.rush.sync(now());
          this.faults.tellKeepers(now());
        });
        // A slice of what is heard and one of what rings take turns: neither keeps the other waiting for long.
        const owes = this.#chain.owes;
        if (owes) this.#slice('ring', (until) => this.#hearSlice(now(), until));
        const at = this.#nextOfAny();
        if (at === null || at > now()) {
          if (!owes) return this.#caughtUp();
        } else if (this.#chores?.nextAt() === at) this.#chore(now());
        else this.#slice('ring', (until) => this.#ringSlice(at, now(), until));
      }
      // Whoever waits for it may be a request themselves: it must not wait for that in turn.
      await (this.#awaited > 0 ? aTurn() : this.#pace.breath());
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
    this.#work.onRollback(() => this.#planning.clear());
    const now = this.#clock.now();
    const sweeping = this.#chores?.isUnderWay() ?? false;
    for (;;) {
      this.schedules.sync(now);
      this.#digests.sync(now);
      if (this.#stores.plan.isStale) {
        this.#replanSlice(now, Infinity);
        continue;
      }
      this.#stores.plan.allPlanned();
      // An engine that stands and asks rings nothing until it is answered.
      if (this.standing) return;
      if (this.#chain.owes) {
        this.#hearSlice(now, Infinity);
        continue;
      }
      const chore = sweeping ? null : (this.#chores?.nextAt() ?? null);
      const at = earliest(chore, this.#nextInstant());
      if (at === null || at > now) return;
      if (chore === at) this.#chore(now);
      else this.#ringSlice(at, now, Infinity);
    }
  }

  /** Everything that should have rung is done with: from now on each rule goes by its own choice again. */
  #caughtUp(): void {
    if (this.#catchUp.answer === null) return;
    this.#work.run(() => this.#stores.engineState.write('standing', null));
    this.#catchUp.answer = null;
  }

  #chore(now: number): void {
    const began = this.#clock.machine.now();
    try {
      this.#chores!.runOne(now);
      this.#onSlice('chore', this.#clock.machine.now() - began);
    } catch (error) {
      if (isMachineFault(error)) throw error;
      this.#work.run(() => this.#fault(error, {}, now));
    }
  }

  #slice(kind: 're-plan' | 'ring', work: (until: number) => void): void {
    const began = this.#clock.machine.now();
    this.#work.run(() => work(began + this.#pace.sliceMs()));
    this.#onSlice(kind, this.#clock.machine.now() - began);
  }

  #replanSlice(now: number, until: number): void {
    const all = this.#stores.plan.stale(STALE_AT_ONCE);
    // To plan one task changes no other, so they are read at once.
    const tasks = new Map(
      this.#stores.tasks.factsAmong(all.map(({ taskId }) => taskId)).map((task) => [task.id, task])
    );
    for (const stale of all) {
      const { taskId } = stale;
      try {
        // No part of its own: what cannot be computed of a rule is settled inside, before anything of that rule is written.
        this.#replanner.replan(stale, tasks.get(taskId) ?? null, this.#plannedAt(stale.changeId, now));
      } catch (error) {
        if (isMachineFault(error)) throw error;
        // A task that cannot be planned is reported once and stops nobody else's.
        this.#stores.plan.settled(taskId);
        this.#fault(error, { taskId }, now);
      }
      if (this.#clock.machine.now() >= until) return;
    }
  }

  /**
   * What one change makes of many tasks is of one moment, however many slices it takes to plan them: what is made up for because of it leaves
   * together, and not in as many messages as the machine is slow.
   */
  #plannedAt(changeId: number, now: number): number {
    const known = this.#planning.get(changeId);
    if (changeId !== 0 && known !== undefined && known <= now && now - known < LONGEST_PLANNING_MS)
      return known;
    this.#planning.set(changeId, now);
    return now;
  }

  #hearSlice(now: number, until: number): void {
    this.#chain.hearOwed(
      HEARD_AT_ONCE,
      now,
      (work) => this.#guarded(work, (error) => this.#fault(error, {}, now)),
      () => this.#clock.machine.now() >= until
    );
  }

  #ringSlice(instant: number, now: number, until: number): void {
    const isOver = () => this.#clock.machine.now() >= until;
    for (const run of this.#stores.runs.due(instant, 200)) {
      this.#guarded(
        () => this.#runs.goOn(run, now),
        (error) => {
          this.#stores.runs.end(run.id, 'stopped', faultWords(error), now, run.own);
          this.#ruleFault(error, run.ruleId, run.taskId ?? NO_TASK, now);
        }
      );
      if (isOver()) return;
    }
    // What a run has just changed is planned before anything rings.
    if (this.#stores.plan.isStale) return;
    const rows = this.#stores.plan.at(instant, 200);
    for (const row of rows) {
      this.#guarded(
        () => this.#ringer.ring(row, now),
        (error) => {
          this.#ringer.passOver(row);
          this.#ruleFault(error, row.ruleId, row.taskId, now);
        }
      );
      if (isOver() || this.#stores.plan.isStale) return;
    }
    if (rows.length > 0) return;
    const scheduled = this.#stores.schedules.nextAt();
    if (scheduled !== null && scheduled <= instant) {
      this.schedules.ringDue(instant, now, (error, ruleId) => this.#fault(error, { ruleId }, now));
      return;
    }
    // More than that a slice does not come to.
    const digests = this.#digests.due(instant, 64);
    for (const row of digests) {
      this.#guarded(
        () => this.#digests.ring(row, now),
        (error) => {
          this.#digests.passOver(row);
          this.#fault(error, { digestId: row.digestId, personId: row.readerId }, now);
        }
      );
      if (isOver()) return;
    }
    if (digests.length > 0) return;
    // Notices leave once every ring of the instant is recorded, so that those that end together are seen together.
    this.#departures.slice(instant, now, isOver, (error, noticeId) => this.#fault(error, { noticeId }, now));
  }

  /** A faulty row stops nobody else's; what it had done by then is taken back with it. */
  #guarded(work: () => void, onFault: (error: unknown) => void): void {
    try {
      this.#work.run(work);
    } catch (error) {
      if (isMachineFault(error)) throw error;
      onFault(error);
    }
  }

  /** What cannot be computed is said at its rule; anything else is a fault of the application, and is logged too. */
  #ruleFault(error: unknown, ruleId: number, taskId: number, now: number): void {
    this.faults.note(ruleId, taskId, 'ringing', error, now);
    if (!(error instanceof CodedError)) this.#fault(error, { ruleId, taskId }, now);
  }

  #fault(error: unknown, data: Record<string, number>, now: number): void {
    const message = error instanceof Error ? error.message : String(error);
    this.#stores.journal.add(now, this.#clock.machine.now(), 'fault', { ...data, message });
    this.#onFault(error);
  }

  #schedule(ms: number): void {
    const { machine } = this.#clock;
    machine.clearTimeout(this.#timer);
    this.#timer = machine.setTimeout(() => void this.#beat(), ms);
  }

  /** Whether the wall clock of the machine has jumped since the last beat: its own time went on otherwise. */
  #jumped(): boolean {
    const { machine } = this.#clock;
    const [wall, steady] = [machine.now(), machine.steadyMs()];
    const last = this.#lastBeat;
    this.#lastBeat = { wall, steady };
    if (this.#clock.movable || last === null) return false;
    const jump = wall - last.wall - (steady - last.steady);
    if (Math.abs(jump) < JUMP_MS) return false;
    this.stand({ why: 'the clock jumped', since: last.wall, until: wall, answer: null });
    return true;
  }

  /** Whether nothing may ring before somebody has answered. */
  #isHeld(): boolean {
    return this.#jumped() || this.standing !== null;
  }

  /** Writes down, now and then, that it runs: after a stop it is known since when it did not. */
  #seen(): void {
    const now = this.#clock.now();
    if (this.#clock.movable || now - this.#lastSeen < LONGEST_SLEEP_MS) return;
    this.#lastSeen = now;
    this.#work.run(() => this.#stores.engineState.write('seen', now));
  }

  /** What looks at all tasks is read between the slices of others, so that no page waits for it. */
  async #readOn(): Promise<void> {
    for (;;) {
      const until = this.#clock.machine.now() + SHORT_SLICE_MS;
      if (this.#source.readOn(() => this.#clock.machine.now() >= until) || this.#stopping) return;
      await this.#pace.breath();
    }
  }

  async #beat(): Promise<void> {
    try {
      await this.#work.returned();
      if (this.#isHeld()) return;
      if (!this.#moving) await this.#tickAlone();
      await this.#readOn();
      await this.#work.returned();
      this.#seen();
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

function earliest(...instants: (number | null)[]): number | null {
  const known = instants.filter((at) => at !== null);
  return known.length === 0 ? null : Math.min(...known);
}
