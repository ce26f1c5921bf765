import { canBeOverdue, isOpenWork, isReachable, type TaskFacts } from '../../core/forecast/facts.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { dueDayForReader } from '../../core/ring/days-left.ts';
import { stripOf } from '../../view/bells.ts';
import type { BellView, StripView } from '../../view/models.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { FailedDelivery } from '../store/outbox.ts';
import type { ForecastService } from './forecasts.ts';
import type { Viewer } from './viewer.ts';

export interface TowerView {
  overdue: { count: number; oldestWorkingDays: number };
  dueToday: number;
  bells: BellView[];
  strip: StripView;
  failing: FailedDelivery[];
  /** Rules that were stopped before they sent far more than was foreseen. */
  rushes: { id: number; ruleId: number; rule: string; count: number; expected: number }[];
  faulty: { id: number; name: string; fault: string }[];
  outOfEarshot: { reason: EarshotReason; count: number }[];
}

/** Sets of tasks that the Bell tower counts and the list can show. */
export type TaskSet = 'overdue' | 'today' | 'out of earshot';

export const EARSHOT_REASONS = [
  'no date',
  'no owner',
  'nobody with an address',
  'outside every Watch',
  'every lead past'
] as const;
export type EarshotReason = (typeof EARSHOT_REASONS)[number];

/** What the coordinator's first screen says. */
export class TowerService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #forecasts: ForecastService;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, forecasts: ForecastService) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#forecasts = forecasts;
  }

  view(viewer: Viewer): TowerView {
    const now = this.#clock.now();
    const bells = this.#forecasts.bells(now, now + MS_PER_DAY, viewer);
    const open = this.#openTasks();
    const overdue = open.filter((task) => this.#isOverdue(task, now));
    const told = new Set(bells.filter(({ unrung }) => unrung === null).map(({ readerId }) => readerId));
    const rows = [...this.#source.facts.people.values()].filter(({ id }) => told.has(id));
    const reasons = this.#earshot(open);
    return {
      overdue: {
        count: overdue.length,
        oldestWorkingDays: Math.max(
          0,
          ...overdue.map((task) => this.#source.planner.workingDaysOverdue(task, now))
        )
      },
      dueToday: open.filter((task) => this.#isDueToday(task, now)).length,
      bells,
      strip: stripOf(rows, bells, now - MS_PER_DAY / 48, now + MS_PER_DAY, now, viewer.zone),
      rushes: this.#stores.rushes.open().map(({ id, ruleId, count, expected }) => ({
        id,
        ruleId,
        rule: this.#stores.rules.byId(ruleId)?.name ?? '',
        count,
        expected
      })),
      faulty: this.#stores.rules
        .made()
        .filter(({ state }) => state === 'faulty')
        .map(({ id, name, fault }) => ({ id, name, fault: fault ?? '' })),
      failing: this.#stores.outbox.failing(20),
      outOfEarshot: EARSHOT_REASONS.flatMap((reason) => {
        const count = [...reasons.values()].filter((found) => found === reason).length;
        return count > 0 ? [{ reason, count }] : [];
      })
    };
  }

  /** The ids of one of the sets that are counted. */
  idsOf(set: TaskSet): number[] {
    const now = this.#clock.now();
    const open = this.#openTasks();
    if (set === 'out of earshot') return [...this.#earshot(open).keys()];
    return open
      .filter((task) => (set === 'overdue' ? this.#isOverdue(task, now) : this.#isDueToday(task, now)))
      .map(({ id }) => id);
  }

  #openTasks(): TaskFacts[] {
    return this.#stores.tasks.facts().filter(isOpenWork);
  }

  #isOverdue(task: TaskFacts, now: number): boolean {
    if (!canBeOverdue(task)) return false;
    const dueAt = this.#source.planner.momentOf('due', task);
    return dueAt !== null && now >= dueAt;
  }

  /** Due today where its owner is. */
  #isDueToday(task: TaskFacts, now: number): boolean {
    if (!task.due || this.#isOverdue(task, now)) return false;
    const { zone } = this.#source.planner.dateSource(task);
    return dueDayForReader(task.due, zone) === zone.dayOf(now);
  }

  /** Open tasks for which no rule that is on has rung or will ring in this round, with the first reason that holds. */
  #earshot(open: readonly TaskFacts[]): Map<number, EarshotReason> {
    const heard = this.#stores.notices.tasksHeard();
    for (const { taskId } of this.#stores.plan.all()) heard.add(taskId);
    for (const task of open) if (!heard.has(task.id) && this.#isScheduled(task)) heard.add(task.id);
    const silent = new Map<number, EarshotReason>();
    for (const task of open) if (!heard.has(task.id)) silent.set(task.id, this.#reason(task));
    // A planned ring for somebody without an address will reach nobody.
    for (const task of open)
      if (!silent.has(task.id) && this.#nobodyReachable(task)) silent.set(task.id, 'nobody with an address');
    return silent;
  }

  /** A schedule will find it, as it stands, and somebody is told then. */
  #isScheduled(task: TaskFacts): boolean {
    const { planner } = this.#source;
    return this.#source
      .liveRules()
      .some(
        ({ facts }) =>
          facts.leads.some(({ schedule }) => schedule !== null) &&
          planner.watches(facts, task, this.#clock.now()) &&
          planner.audience(facts, task).length > 0
      );
  }

  #reason(task: TaskFacts): EarshotReason {
    if (!task.due && !task.start && !task.remindOn) return 'no date';
    if (task.ownerId === null) return 'no owner';
    if (this.#nobodyReachable(task)) return 'nobody with an address';
    const rules = this.#source.liveRules();
    const { planner } = this.#source;
    return rules.some(({ facts }) => planner.watches(facts, task, this.#clock.now()))
      ? 'every lead past'
      : 'outside every Watch';
  }

  #nobodyReachable(task: TaskFacts): boolean {
    const { planner } = this.#source;
    const told = this.#source
      .liveRules()
      .filter(({ facts }) => planner.watches(facts, task, this.#clock.now()))
      .flatMap(({ facts }) => planner.audience(facts, task));
    return told.length > 0 && !told.some(isReachable);
  }
}
