import { CodedError } from '../../core/errors.ts';
import {
  UNDO_DAYS,
  blankSweep,
  type SweepActName,
  type SweepDefinition,
  type SweepRunState
} from '../../core/sweep/model.ts';
import { checkSweepSchedule } from '../../core/sweep/when.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { SweepNowView } from '../../view/sweeps.ts';
import type { SweepInput } from './schema.ts';
import type { Stores } from '../store/all.ts';
import type { SweepRun } from '../store/sweep-runs.ts';
import type { Sweep } from '../store/sweeps.ts';
import type { EffectView } from '../../view/effects.ts';
import type { EffectService } from '../effect/effects.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { SweepLook } from './sweep-look.ts';
import { isLargeShare, type Sweeper } from './sweeper.ts';

/** What a sweep of each kind is named at first. */
const NAMES: Readonly<Record<SweepActName, string>> = {
  close: 'Close finished tasks',
  archive: 'Archive closed tasks',
  purge: 'Purge the archive',
  'still needed': 'Still needed?',
  'ask a date': 'No date yet',
  're-date': 'Move overdue due dates',
  'report slips': 'Report postponed tasks',
  'bring back': 'Return parked tasks'
};

/** Tasks of a list that are tried out at most. */
const MOST_TRIED = 10_000;

/** What people do with sweeps. */
export class SweepService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #committer: Committer;
  readonly #look: SweepLook;
  readonly #sweeper: Sweeper;
  readonly #effects: EffectService;
  readonly #wake: () => void;

  /** @param wake the engine, which carries them out */
  constructor(
    {
      work,
      stores,
      source,
      clock
    }: { work: UnitOfWork; stores: Stores; source: FactsSource; clock: WorkspaceClock },
    committer: Committer,
    {
      look,
      sweeper,
      effects,
      wake
    }: { look: SweepLook; sweeper: Sweeper; effects: EffectService; wake: () => void }
  ) {
    this.#effects = effects;
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#committer = committer;
    this.#look = look;
    this.#sweeper = sweeper;
    this.#wake = wake;
  }

  /** A new one of a kind, by hand and off. */
  add(actor: Actor, act: SweepActName): Committed<number> {
    return this.insert(actor, { name: NAMES[act], description: '', definition: blankSweep(act) });
  }

  /** @throws CodedError as `save` */
  insert(actor: Actor, { name, description, definition }: SweepInput): Committed<number> {
    this.#check(definition);
    return this.#committer.commit(actor, `Sweep “${name}” added`, (writer) =>
      writer.insert('sweep', {
        ...{ name, description, state: 'off', definition: JSON.stringify(definition) },
        keeper_id: actor.personId,
        position: Math.max(0, ...this.#stores.sweeps.all().map(({ position }) => position)) + 1
      })
    );
  }

  /** @throws CodedError `sweep-gone`, `sweep-purge-asks`, and for a schedule or condition that cannot be */
  save(actor: Actor, id: number, { name, description, definition }: SweepInput): Committed<void> {
    this.need(id);
    this.#check(definition);
    return this.#committer.commit(actor, `Sweep “${name}” changed`, (writer) => {
      writer.update('sweep', id, { name, description, definition: JSON.stringify(definition) });
    });
  }

  /** On: it runs as planned. One by hand needs not be on. @throws CodedError `sweep-gone` */
  turn(actor: Actor, id: number, state: 'on' | 'off'): Committed<void> {
    const { name, definition } = this.need(id);
    if (state === 'on') this.#check(definition);
    return this.#committer.commit(actor, `Sweep “${name}” turned ${state}`, (writer) => {
      writer.update('sweep', id, { state });
    });
  }

  /** What it did stays, with its reports. @throws CodedError `sweep-gone` */
  drop(actor: Actor, id: number): Committed<void> {
    const { name } = this.need(id);
    return this.#committer.commit(actor, `Sweep “${name}” removed`, (writer) => {
      writer.remove('sweep', id);
    });
  }

  /** What it would take now, as it is written. @throws CodedError where its condition cannot be read */
  now(definition: SweepDefinition, keeperId: number | null): SweepNowView {
    this.#check(definition);
    return this.#look.count(definition, keeperId, this.#clock.now());
  }

  /** Makes the list of what it would take now, to be looked through and then run. @returns the run */
  look(id: number): number {
    const sweep = this.need(id);
    const now = this.#clock.now();
    return this.#transact(() => this.#sweeper.begin(sweep, now, false, now));
  }

  /** Leaves tasks of a list out, or takes them again. @throws CodedError `sweep-not-ready` */
  tick(runId: number, taskIds: readonly number[], ticked: boolean): number {
    this.#needIn(runId, ['ready']);
    return this.#transact(() => this.#stores.sweepRuns.tick(runId, taskIds, ticked));
  }

  /**
   * Says yes to a run.
   * @param meant a large share of everything is meant to go
   * @throws CodedError `sweep-not-ready`, `sweep-share`
   */
  run(actor: Actor, runId: number, meant: boolean): void {
    const run = this.#needIn(runId, ['ready']);
    const taken = this.#stores.sweepRuns.count(runId, 'taken');
    if (!meant && isLargeShare(taken, run.standing))
      throw new CodedError('sweep-share', { count: taken, all: run.standing });
    this.#transact(() => {
      this.#note(actor, runId, 'run');
      this.#sweeper.start(run, actor.personId, this.#clock.now());
    });
  }

  /**
   * What running a list now would do, with whatever rules do then.
   * @throws CodedError `sweep-not-ready`, or `preview-many` where it is too long to be tried out
   */
  effect(actor: Actor, runId: number, viewer: Viewer): EffectView {
    this.#needIn(runId, ['ready']);
    const ids = this.#stores.sweepRuns.next(runId, MOST_TRIED + 1);
    if (ids.length > MOST_TRIED) throw new CodedError('preview-many', { most: MOST_TRIED });
    return this.#effects.ofAct(ids, () => this.#sweeper.sweepWhole(runId, actor.personId), viewer);
  }

  /** Stops a run before it begins: nothing of it is done. @throws CodedError `sweep-not-ready` */
  stop(actor: Actor, runId: number): void {
    const run = this.#needIn(runId, ['ready', 'looking']);
    const who = this.#source.facts.people.get(actor.personId ?? 0)?.name ?? 'somebody';
    this.#transact(() => {
      this.#note(actor, runId, 'stopped');
      const endedAt = this.#clock.now();
      this.#stores.sweepRuns.set({ ...run, state: 'stopped', reason: `stopped by ${who}`, endedAt });
    });
  }

  /** Halts a run half-way: it can go on, or be undone. @throws CodedError `sweep-not-ready` */
  halt(actor: Actor, runId: number): void {
    const run = this.#needIn(runId, ['running']);
    const who = this.#source.facts.people.get(actor.personId ?? 0)?.name ?? 'somebody';
    this.#transact(() => {
      this.#note(actor, runId, 'halted');
      this.#stores.sweepRuns.set({ ...run, state: 'halted', reason: `stopped by ${who}` });
    });
  }

  /** @throws CodedError `sweep-not-ready` */
  resume(actor: Actor, runId: number): void {
    const run = this.#needIn(runId, ['halted']);
    this.#transact(() => {
      this.#note(actor, runId, 'continued');
      this.#stores.sweepRuns.set({ ...run, state: 'running', reason: null });
    });
  }

  /**
   * Takes back what a run did; what was edited later stays, and is listed.
   * @throws CodedError `sweep-not-ready`, `sweep-undo-late`
   */
  undo(actor: Actor, runId: number): void {
    const run = this.#needIn(runId, ['done', 'halted']);
    if (this.#clock.now() > (run.startedAt ?? 0) + UNDO_DAYS * MS_PER_DAY)
      throw new CodedError('sweep-undo-late', { days: UNDO_DAYS });
    this.#transact(() => {
      this.#note(actor, runId, 'undone');
      this.#stores.sweepRuns.set({ ...run, state: 'undoing', undoneBy: actor.personId });
    });
  }

  /** @throws CodedError `sweep-gone` */
  need(id: number): Sweep {
    const sweep = this.#stores.sweeps.byId(id);
    if (!sweep) throw new CodedError('sweep-gone');
    return sweep;
  }

  /** @throws CodedError `sweep-run-gone` */
  needRun(id: number): SweepRun {
    const run = this.#stores.sweepRuns.byId(id);
    if (!run) throw new CodedError('sweep-run-gone');
    return run;
  }

  #needIn(runId: number, states: readonly SweepRunState[]): SweepRun {
    const run = this.needRun(runId);
    if (!states.includes(run.state)) throw new CodedError('sweep-not-ready', { state: run.state });
    return run;
  }

  #check(definition: SweepDefinition): void {
    const { facts } = this.#source;
    if (definition.act.act === 'purge' && definition.goes !== 'after a yes')
      throw new CodedError('sweep-purge-asks', {}, 'goes');
    checkSweepSchedule(definition, facts.workspace, this.#clock.now());
    this.#look.compiled(definition, null);
  }

  #note(actor: Actor, runId: number, what: string): void {
    const data = { runId, actorId: actor.personId, name: this.needRun(runId).name, what };
    this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'sweep', data);
  }

  #transact<T>(work: () => T): T {
    const result = this.#work.run(work);
    this.#wake();
    return result;
  }
}
