import { many } from '../../core/many.ts';
import { CodedError } from '../../core/errors.ts';
import { LARGE_FROM, LARGE_SHARE } from '../../core/sweep/model.ts';
import { nextSweep, type PlannedSweep } from '../../core/sweep/when.ts';
import { doneWords } from '../../core/sweep/words.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { SHORT_SLICE_MS } from '../engine/turn.ts';
import type { Stores } from '../store/all.ts';
import type { SweepMeasure, SweepRun } from '../store/sweep-runs.ts';
import type { Sweep, SweepPlanRow } from '../store/sweeps.ts';
import type { Committer } from '../workspace/commit.ts';
import type { SweepActor } from './sweep-actor.ts';
import type { SweepLook } from './sweep-look.ts';
import type { SweepMail } from './sweep-mail.ts';
import type { SweepQuestions } from './sweep-questions.ts';

/** The most tasks of one transaction. */
const CHUNK = 500;

/** What a sweeper needs. */
export interface SweeperParts {
  look: SweepLook;
  actor: SweepActor;
  mail: SweepMail;
  questions: SweepQuestions;
  /** How much the lists hold, and how long a search takes. */
  measure: () => SweepMeasure;
}

/**
 * Carries sweeps out, one slice at a time, as the engine asks; what is written into the run is the cursor, so a run that was cut off goes
 * on where it stopped. A run goes through these states:
 *
 *   looking   each task is judged for the instant of the run; its list is sent to the keeper of a planned one
 *   ready     its instant, or somebody’s yes, is waited for
 *   running   chunk by chunk, each a change of its own; a task that was changed meanwhile, or is no longer to be swept, is left out
 *   halted    somebody stopped it half-way: it goes on, or is undone
 *   done      until 30 days are over it can be undone
 *   undoing   its changes are taken back, the last first; what was edited later stays
 *   undone, stopped (before it ran), passed (nobody said yes before the next one)
 */
export class Sweeper {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #committer: Committer;
  readonly #parts: SweeperParts;
  /** The run of which a chunk failed: its tasks are taken one by one. */
  #careful: number | null = null;

  constructor(
    {
      work,
      stores,
      source,
      clock
    }: { work: UnitOfWork; stores: Stores; source: FactsSource; clock: WorkspaceClock },
    committer: Committer,
    parts: SweeperParts
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#committer = committer;
    this.#parts = parts;
  }

  /** Whether a run is under way, whose next slice is done before anything else. */
  isUnderWay(): boolean {
    return this.#source.isHeld || this.#stores.sweepRuns.busy().length > 0;
  }

  /** The next instant at which something is to be done; null when nothing is. */
  nextAt(): number | null {
    if (this.isUnderWay()) return this.#clock.now();
    const { sweeps, sweepRuns } = this.#stores;
    const instants = [
      ...sweeps.plan().map(({ looksAt }) => looksAt),
      sweepRuns.nextPlanned()?.at,
      this.#parts.questions.nextAt()
    ].filter((at) => at != null);
    return instants.length === 0 ? null : Math.min(...instants);
  }

  /** Does the next slice. @param now workspace clock */
  runOne(now: number): void {
    const [busy] = this.#stores.sweepRuns.busy();
    if (busy) {
      this.#source.hold(busy.state !== 'looking');
      return this.#guarded(busy, () => this.#step(busy, now));
    }
    if (this.#source.isHeld) return this.#source.letGo(this.#sliceEnd());
    const planned = this.#stores.sweeps.plan().find(({ looksAt }) => looksAt <= now);
    if (planned) return this.#transact(() => this.#beginPlanned(planned, now));
    const due = this.#stores.sweepRuns.nextPlanned();
    if (due && due.at <= now) return this.#transact(() => this.start(due, null, now));
    this.#parts.questions.endOne(now);
  }

  /** At the start of the server: a run that was cut off goes on, or is taken back where its sweep says so. */
  recover(): void {
    this.#transact(() => {
      for (const run of this.#stores.sweepRuns.busy())
        if (run.state === 'running' && run.definition.cutOff === 'undo')
          this.#stores.sweepRuns.set({ ...run, state: 'undoing', undoneBy: run.keeperId });
      this.sync(this.#clock.now());
    });
  }

  /** Begins to look for a sweep by hand. @returns the run */
  begin(sweep: Sweep, at: number, planned: boolean, now: number): number {
    const { id, name, keeperId, definition } = sweep;
    return this.#stores.sweepRuns.begin({
      ...{ sweepId: id, name, keeperId, definition, at, planned, lookedAt: now }
    });
  }

  /** Starts a run whose list is made. In the transaction under way. */
  start(run: SweepRun, personId: number | null, now: number): void {
    const { sweepRuns } = this.#stores;
    const before = this.#parts.measure();
    const state = this.#stores.sweepRuns.count(run.id, 'taken') === 0 ? 'done' : 'running';
    const ends = state === 'done' ? { endedAt: now, after: before } : {};
    sweepRuns.set({ ...run, state, reason: null, startedAt: now, startedBy: personId, before, ...ends });
  }

  /** Runs a list whole, inside the unit under way: for whoever tries it out, and takes it back. */
  sweepWhole(runId: number, personId: number | null): void {
    const { sweepRuns } = this.#stores;
    const now = this.#clock.now();
    this.start(sweepRuns.byId(runId)!, personId, now);
    for (let run = sweepRuns.byId(runId)!; run.state === 'running'; run = sweepRuns.byId(runId)!) {
      const under = run;
      this.#guarded(under, () => this.#sweepOn(under, now));
    }
    this.#careful = null;
  }

  /**
   * Plans sweeps that are on; what was prepared for one that was changed or turned off since is stopped. In the transaction under way.
   * @param now workspace clock
   */
  sync(now: number): void {
    const { sweeps, sweepRuns } = this.#stores;
    const all = sweeps.all();
    for (const sweep of all) {
      const isPlanned = sweep.state === 'on' && sweep.definition.when.by === 'schedule';
      const written = JSON.stringify(sweep.definition);
      let prepared: SweepRun | null = null;
      for (const run of sweepRuns.waitingOf(sweep.id)) {
        if (!run.planned) continue;
        if (isPlanned && JSON.stringify(run.definition) === written) prepared = run;
        else this.#end(run, 'stopped', isPlanned ? 'the sweep was changed' : 'the sweep was turned off', now);
      }
      const plan = sweeps.planOf(sweep.id);
      if (!isPlanned) sweeps.dropPlan(sweep.id);
      // One that is due now is not planned away.
      else if (!plan || plan.looksAt > now) this.#plan(sweep, now, prepared?.at ?? null);
    }
    const known = new Set(all.map(({ id }) => id));
    for (const { sweepId } of sweeps.plan()) if (!known.has(sweepId)) sweeps.dropPlan(sweepId);
  }

  #plan(sweep: Sweep, from: number, last: number | null): void {
    const { facts } = this.#source;
    const keeper = facts.people.get(sweep.keeperId ?? 0)?.calendar ?? facts.workspace.calendar;
    const next = this.#nextOf(sweep, () => nextSweep(from, last, sweep.definition, facts.workspace, keeper));
    if (next) this.#stores.sweeps.put({ sweepId: sweep.id, ...next });
    else this.#stores.sweeps.dropPlan(sweep.id);
  }

  /** A sweep whose schedule cannot be computed is not planned, and keeps none of the others from running. */
  #nextOf(sweep: Sweep, compute: () => PlannedSweep | null): PlannedSweep | null {
    try {
      return compute();
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      const data = { sweepId: sweep.id, message: error.message };
      this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'fault', data);
      return null;
    }
  }

  #beginPlanned(plan: SweepPlanRow, now: number): void {
    const sweep = this.#stores.sweeps.byId(plan.sweepId);
    if (!sweep) return this.#stores.sweeps.dropPlan(plan.sweepId);
    // Those before it that nobody said yes to are over.
    for (const older of this.#stores.sweepRuns.waitingOf(sweep.id))
      if (older.planned && older.at <= now)
        this.#end(older, 'passed', 'nobody approved it before the next list', now);
    this.begin(sweep, plan.at, true, now);
    // After a time in which nothing ran, those in between are passed over.
    this.#plan(sweep, now > plan.at ? now : plan.looksAt, plan.at);
  }

  #step(run: SweepRun, now: number): void {
    if (run.state === 'looking') return this.#transact(() => this.#lookOn(run, now));
    if (run.state === 'undoing') this.#undoOn(run, now);
    else this.#sweepOn(run, now);
  }

  #lookOn(run: SweepRun, now: number): void {
    const { sweepRuns } = this.#stores;
    const sweep = this.#parts.look.compiled(run.definition, run.keeperId);
    const isOver = this.#sliceEnd();
    let { cursor } = run;
    let [looked, waiting] = [0, 0];
    let window;
    do {
      window = this.#parts.look.window(sweep, cursor, run.at);
      for (const [taskId, verdict] of window?.verdicts ?? []) {
        if (verdict.is === 'not looked at') continue;
        looked++;
        if (verdict.is === 'waits') waiting++;
        else if (verdict.is === 'taken')
          sweepRuns.addRow(run.id, { taskId, state: 'taken', reason: null, since: verdict.since });
        else sweepRuns.addRow(run.id, { taskId, state: 'protected', reason: verdict.why, since: null });
      }
      cursor = window?.until ?? cursor;
    } while (window && !isOver());
    sweepRuns.looked(run.id, cursor, looked, waiting);
    if (!window) this.#looked(sweepRuns.byId(run.id)!, now);
  }

  /** Its list is made: whether it runs by itself when its instant comes. */
  #looked(run: SweepRun, now: number): void {
    const taken = this.#stores.sweepRuns.count(run.id, 'taken');
    const standing = this.#parts.look.standing(run.definition);
    const ready: SweepRun = { ...run, state: 'ready', standing };
    ready.reason = this.#reasonToAsk(ready, taken);
    this.#stores.sweepRuns.set(ready);
    if (run.planned && taken > 0) this.#parts.mail.preview(ready, taken, now);
  }

  #reasonToAsk(
    { definition, planned, at, lookedAt, standing, keeperId }: SweepRun,
    taken: number
  ): string | null {
    if (!planned) return 'its list was made by hand';
    if (taken === 0) return null;
    if (definition.act.act === 'purge') return 'a purge always needs approval';
    if (definition.goes === 'after a yes') return 'this sweep needs approval';
    if (isLargeShare(taken, standing)) return `it would change ${taken} of ${many(standing, 'task')}`;
    if (!this.#parts.mail.reaches(keeperId)) return 'nobody can get its list';
    return lookedAt >= at ? 'its list could not be sent one working day before' : null;
  }

  #sweepOn(run: SweepRun, now: number): void {
    const { sweepRuns } = this.#stores;
    const ids = sweepRuns.next(run.id, this.#careful === run.id ? 1 : CHUNK);
    if (ids.length === 0) return this.#transact(() => this.#swept(run, now));
    // While nobody has changed anything since its list was made, each task is as it was judged.
    const isSame = !sweepRuns.isChangedSince(run.id, run.seenChange);
    const sweep = isSame ? null : this.#parts.look.compiled(run.definition, run.keeperId);
    const isOver = this.#sliceEnd();
    const actor = { personId: run.startedBy, source: 'sweep' as const };
    this.#committer.commit(actor, `${run.name}: ${doneWords(run.definition.act)}`, (writer) => {
      sweepRuns.addChunk(run.id, writer.id);
      const ready: number[] = [];
      for (const id of ids) {
        const why = sweep ? this.#reasonAgainst(run, sweep, id) : null;
        if (why === null) ready.push(id);
        else sweepRuns.setRow(run.id, id, 'left', why);
        if (sweep && isOver()) break;
      }
      const done: number[] = [];
      for (const [id, why] of this.#parts.actor.do(writer, ready, run.definition.act, run.id, isOver)) {
        if (why === null) done.push(id);
        else sweepRuns.setRow(run.id, id, 'left', why);
      }
      sweepRuns.setRows(run.id, done, 'done');
    });
    this.#careful = null;
  }

  /** Why a task that was on the list is left out now; null where it is swept. */
  #reasonAgainst(run: SweepRun, sweep: ReturnType<SweepLook['compiled']>, id: number): string | null {
    const changed = this.#stores.sweepRuns.touchedSince(id, run.seenChange);
    if (changed !== null) return `changed since its list was made: ${changed}`;
    const verdict = this.#parts.look.verdict(sweep, id, run.at);
    if (!verdict) return 'not found';
    if (verdict.is === 'taken') return null;
    return verdict.is === 'protected' ? verdict.why : 'no longer matches this sweep';
  }

  #swept(run: SweepRun, now: number): void {
    const after = this.#parts.measure();
    this.#stores.sweepRuns.set({ ...run, state: 'done', endedAt: now, after });
    this.#parts.mail.told(run, now);
    const count = (state: 'done' | 'left') => this.#stores.sweepRuns.count(run.id, state);
    const data = { runId: run.id, name: run.name, done: count('done'), left: count('left') };
    this.#stores.journal.add(now, this.#clock.machine.now(), 'swept', data);
  }

  #undoOn(run: SweepRun, now: number): void {
    const { sweepRuns } = this.#stores;
    const changeId = sweepRuns.lastChunk(run.id);
    if (changeId === null) return this.#transact(() => this.#undone(run, now));
    this.#transact(() => {
      const { result } = this.#committer.undo(changeId, run.undoneBy ?? 0);
      sweepRuns.setRows(run.id, sweepRuns.tasksOfChange(changeId), 'undone');
      for (const { table, rowId, title } of result.kept)
        if (table === 'task') sweepRuns.setRow(run.id, rowId, 'kept', title);
    });
  }

  #undone(run: SweepRun, now: number): void {
    this.#stores.sweepQuestions.withdraw(run.id, now, run.undoneBy ?? 0);
    this.#stores.sweepRuns.set({ ...run, state: 'undone', reason: null, undoneAt: now });
  }

  #end(run: SweepRun, state: 'stopped' | 'passed', reason: string, now: number): void {
    this.#stores.sweepRuns.set({ ...run, state, reason, endedAt: now });
  }

  /** A run that fails halts, with why; one task that fails is left out, and the others go on. */
  #guarded(run: SweepRun, work: () => void): void {
    try {
      work();
    } catch (error) {
      if (isMachineFault(error)) throw error;
      const message = error instanceof Error ? error.message : String(error);
      if (run.state === 'running' && this.#careful !== run.id) {
        this.#careful = run.id;
        return;
      }
      const [taskId] = run.state === 'running' ? this.#stores.sweepRuns.next(run.id, 1) : [];
      this.#careful = null;
      this.#transact(() => {
        if (taskId !== undefined) this.#stores.sweepRuns.setRow(run.id, taskId, 'left', message);
        else if (run.state === 'looking') this.#end(run, 'stopped', message, this.#clock.now());
        else this.#stores.sweepRuns.set({ ...run, state: 'halted', reason: message });
      });
      if (!(error instanceof CodedError)) throw error;
    }
  }

  /** @returns whether the slice that begins now has lasted long enough */
  #sliceEnd(): () => boolean {
    const { machine } = this.#clock;
    const until = machine.steadyMs() + SHORT_SLICE_MS;
    return () => machine.steadyMs() >= until;
  }

  #transact(work: () => void): void {
    this.#work.run(work);
  }
}

/** Whether a sweep would take so much of all that stands where it looks that somebody should be asked twice. */
export function isLargeShare(taken: number, standing: number): boolean {
  return standing >= LARGE_FROM && taken >= standing * LARGE_SHARE;
}
