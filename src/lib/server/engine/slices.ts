import { CodedError } from '../../core/errors.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import { NO_TASK } from '../store/rule-faults.ts';
import type { Chain } from './chain.ts';
import type { WorkspaceClock } from './clock.ts';
import type { Departures } from './departures.ts';
import type { Digests } from './digests.ts';
import type { Replanner } from './replan.ts';
import type { Ringer } from './ringer.ts';
import { faultWords, type RuleFaults } from './rule-faults.ts';
import type { Runs } from './runs.ts';
import type { Schedules } from './schedules.ts';
import type { WorkingOver } from './working-over.ts';

/** Stale tasks that are read at once: about what a slice can plan. */
const STALE_AT_ONCE = 100;
/** Tasks whose events are read at once. */
const HEARD_AT_ONCE = 100;
/** What one change makes stale is planned as of one moment for so long: less than after which a ring is late. */
const LONGEST_PLANNING_MS = 30_000;

/** Who does what comes in a slice. */
interface Parts {
  replanner: Replanner;
  runs: Runs;
  ringer: Ringer;
  chain: Chain;
  schedules: Schedules;
  digests: Digests;
  departures: Departures;
  faults: RuleFaults;
}

/** What the engine does in one unit: as much as there is, or as its time lets it. What fails of one thing keeps no other from being done. */
export class Slices {
  readonly #work: WorkingOver['work'];
  readonly #stores: WorkingOver['stores'];
  readonly #clock: WorkspaceClock;
  readonly #parts: Parts;
  readonly #onFault: (error: unknown) => void;
  /** Since when what a change made stale is being planned anew; empty once nothing is stale. */
  readonly #planning = new Map<number, number>();

  constructor(
    { work, stores }: WorkingOver,
    clock: WorkspaceClock,
    parts: Parts,
    onFault: (error: unknown) => void
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#clock = clock;
    this.#parts = parts;
    this.#onFault = onFault;
  }

  /** Nothing is stale, or what was planned is taken back: what comes to be is of a moment of its own. */
  forgetPlanning(): void {
    this.#planning.clear();
  }

  /** Plans stale tasks anew. @param until machine clock: it ends after the one under way */
  replan(now: number, until: number): void {
    const all = this.#stores.plan.stale(STALE_AT_ONCE);
    // To plan one task changes no other, so they are read at once.
    const tasks = new Map(
      this.#stores.tasks.factsAmong(all.map(({ taskId }) => taskId)).map((task) => [task.id, task])
    );
    for (const stale of all) {
      const { taskId } = stale;
      try {
        // No part of its own: what cannot be computed of a rule is settled inside, before anything of that rule is written.
        this.#parts.replanner.replan(stale, tasks.get(taskId) ?? null, this.#plannedAt(stale.changeId, now));
      } catch (error) {
        if (isMachineFault(error)) throw error;
        // A task that cannot be planned is reported once and stops nobody else's.
        this.#stores.plan.settled(taskId);
        this.fault(error, { taskId }, now);
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

  /** Lets rules hear of some of what happened in a change of very many. */
  hear(now: number, until: number): void {
    this.#parts.chain.hearOwed(
      HEARD_AT_ONCE,
      now,
      (work) => this.#guarded(work, (error) => this.fault(error, {}, now)),
      () => this.#clock.machine.now() >= until
    );
  }

  /** What comes at an instant, in its order, as far as it comes to. */
  ring(instant: number, now: number, until: number): void {
    const isOver = () => this.#clock.machine.now() >= until;
    for (const run of this.#stores.runs.due(instant, 200)) {
      this.#guarded(
        () => this.#parts.runs.goOn(run, now),
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
        () => this.#parts.ringer.ring(row, now),
        (error) => {
          this.#parts.ringer.passOver(row);
          this.#ruleFault(error, row.ruleId, row.taskId, now);
        }
      );
      if (isOver() || this.#stores.plan.isStale) return;
    }
    if (rows.length > 0) return;
    const scheduled = this.#stores.schedules.nextAt();
    if (scheduled !== null && scheduled <= instant) {
      this.#parts.schedules.ringDue(instant, now, (error, ruleId) => this.fault(error, { ruleId }, now));
      return;
    }
    // More than that a slice does not come to.
    const digests = this.#parts.digests.due(instant, 64);
    for (const row of digests) {
      this.#guarded(
        () => this.#parts.digests.ring(row, now),
        (error) => {
          this.#parts.digests.passOver(row);
          this.fault(error, { digestId: row.digestId, personId: row.readerId }, now);
        }
      );
      if (isOver()) return;
    }
    if (digests.length > 0) return;
    // Notices leave once every ring of the instant is recorded, so that those that end together are seen together.
    this.#parts.departures.slice(instant, now, isOver, (error, noticeId) =>
      this.fault(error, { noticeId }, now)
    );
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
    this.#parts.faults.note(ruleId, taskId, 'ringing', error, now);
    if (!(error instanceof CodedError)) this.fault(error, { ruleId, taskId }, now);
  }

  /** Something failed that is no fault of a rule: it stands in the journal, and is logged. */
  fault(error: unknown, data: Record<string, number>, now: number): void {
    const message = error instanceof Error ? error.message : String(error);
    this.#stores.journal.add(now, this.#clock.machine.now(), 'fault', { ...data, message });
    this.#onFault(error);
  }
}
