import { ifComputable } from '../../core/if-computable.ts';
import { canBeOverdue, isOpenWork, isReachable, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { shortMoment } from '../../core/time/format.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { bandOf, type Band } from '../../core/ring/overdue.ts';
import { dueDayForReader } from '../../core/ring/days-left.ts';
import { stripOf } from '../../view/bells.ts';
import { nameFor } from '../../view/bell-view.ts';
import type { RuleFaultView } from '../../view/rules.ts';
import type { BellView, SilentTasks, StripView } from '../../view/models.ts';
import type { LoudDay, OverdueBand, SlippingTask, StuckPerson } from '../../view/tower.ts';
import { MOST_MENDED } from '../../view/rule-forecast.ts';
import type { Standing } from '../engine/catch-up.ts';
import type { Engine } from '../engine/engine.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { LookedUpDelivery } from '../store/deliveries.ts';
import type { ForecastService, Soonest } from './forecasts.ts';
import { loudDays, overdueByAge, slippingAgain, stuckPeople } from './tower-parts.ts';
import { Reused } from '../workspace/reused.ts';
import { faultsOfRule } from '../rule/rule-fault-views.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What can be answered where rings passed while the application did not run. */
export { CATCH_UP_ANSWERS } from '../engine/catch-up.ts';

/** What waits for an answer while the engine stands still. */
export interface StandingView {
  why: Standing['why'];
  since: string;
  until: string;
  /** Rings and notices whose moment has passed. */
  count: number;
  listed: { at: string; task: string; rule: string }[];
  /** Messages that were on their way. */
  underWay: number;
}

/** What came of the rings of a time in which the application did not run. */
export interface DowntimeView {
  from: string;
  until: string;
  left: number;
  waiting: number;
  unrung: number;
  listed: { at: string; task: string; person: string; became: string }[];
}

export interface TowerDay {
  overdue: { count: number; oldestWorkingDays: number };
  dueToday: number;
  byAge: OverdueBand[];
  stuck: StuckPerson[];
  slipping: { count: number; tasks: SlippingTask[] };
  loud: LoudDay[];
  /** The first of the next day; how many there are is said by `ahead`. */
  bells: BellView[];
  ahead: Omit<Soonest, 'bells'>;
  strip: StripView;
  outOfEarshot: SilentTasks[];
}

export interface TowerView {
  failing: LookedUpDelivery[];
  /** Rules that were stopped before they sent far more than was foreseen. */
  rushes: { id: number; ruleId: number; rule: string; count: number; expected: number }[];
  /** Runs of sweeps that wait for a yes, or were halted half-way. */
  sweeps: { id: number; name: string; halted: boolean }[];
  /** Why the engine stands still, and what should have rung meanwhile; null when it rings. */
  standing: StandingView | null;
  /** The last time in which it did not run, for a day after it; null without one. */
  downtime: DowntimeView | null;
  /** Addresses from which mail came back. */
  returned: { address: string; personId: number | null; name: string | null; reason: string; at: string }[];
  faulty: { id: number; name: string; fault: string }[];
  /** Rules that are on and cannot be computed for some of their work. */
  uncomputed: { id: number; name: string; fault: RuleFaultView }[];
}

/** What all open tasks are gone through for. */
type Tallies = Pick<
  TowerDay,
  'overdue' | 'dueToday' | 'byAge' | 'stuck' | 'slipping' | 'loud' | 'outOfEarshot'
>;

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

/** More bells of a day than this nobody reads on one screen. */
const MOST_BELLS = 300;
/** What should have rung and is listed; the rest is counted. */
const MISSED_LISTED = 50;
/** What all open tasks are gone through for is found again after so many times as long as that took, or when somebody has changed something. */
const REST = 20;
/** What takes no longer than this is found each time. */
const QUICK_MS = 20;
/** Tasks of one reason that are named. */
const NAMED = 3;

/** What the coordinator's first screen says. */
export class TowerService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #forecasts: ForecastService;
  readonly #engine: Pick<Engine, 'standing'>;
  /** What was out of earshot, where it takes long to find out. */
  readonly #silent: Reused<ReadonlyMap<number, EarshotReason>>;
  /** What all open tasks came to, where that takes long to find out, by person and zone. */
  readonly #tallies = new Map<string, Reused<Tallies>>();

  constructor(
    stores: Stores,
    source: FactsSource,
    clock: WorkspaceClock,
    forecasts: ForecastService,
    engine: Pick<Engine, 'standing'>
  ) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#forecasts = forecasts;
    this.#engine = engine;
    this.#silent = new Reused(clock, REST, QUICK_MS);
  }

  /** The next day of bells, and what all open tasks come to: what takes long. */
  day(viewer: Viewer): TowerDay {
    const now = this.#clock.now();
    const { bells, ...ahead } = this.#forecasts.soonest(now, now + MS_PER_DAY, viewer, MOST_BELLS);
    const told = new Set(bells.filter(({ unrung }) => unrung === null).map(({ readerId }) => readerId));
    const rows = [...this.#source.facts.people.values()].filter(({ id }) => told.has(id));
    return {
      ...this.#talliesFor(viewer, now),
      bells,
      ahead,
      strip: stripOf(rows, bells, now - MS_PER_DAY / 48, now + MS_PER_DAY, now, viewer.zone)
    };
  }

  /** What waits for somebody, and what has failed. */
  view(viewer: Viewer): TowerView {
    const now = this.#clock.now();
    return {
      rushes: this.#stores.rushes.open().map(({ id, ruleId, count, expected }) => ({
        id,
        ruleId,
        rule: this.#stores.rules.byId(ruleId)?.name ?? '',
        count,
        expected
      })),
      sweeps: this.#stores.sweepRuns
        .waitingForYes()
        .map(({ id, name, state }) => ({ id, name, halted: state === 'halted' })),
      faulty: this.#stores.rules
        .made()
        .filter(({ state }) => state === 'faulty')
        .map(({ id, name, fault }) => ({ id, name, fault: fault ?? '' })),
      uncomputed: this.#stores.rules.made().flatMap(({ id, name }) => {
        const fault = faultsOfRule({ stores: this.#stores }, id, viewer);
        return fault ? [{ id, name, fault }] : [];
      }),
      failing: this.#stores.deliveries.failing(20),
      standing: this.#standing(viewer, now),
      downtime: this.#downtime(viewer, now),
      returned: this.#stores.deadEnds.returned().map(({ address, at, reason }) => {
        const person = this.#stores.people.byEmail(address);
        const when = shortMoment(at, viewer.zone, viewer.zone.dayOf(now));
        return { address, personId: person?.id ?? null, name: person?.name ?? null, reason, at: when };
      })
    };
  }

  #talliesFor(viewer: Viewer, now: number): Tallies {
    const { planner, changesSeen, isHeld } = this.#source;
    const key = `${viewer.personId}/${viewer.zone.name}`;
    let reused = this.#tallies.get(key);
    if (!reused) this.#tallies.set(key, (reused = new Reused(this.#clock, REST, QUICK_MS)));
    return reused.get([planner, changesSeen], () => this.#findTallies(viewer, now), isHeld);
  }

  #findTallies(viewer: Viewer, now: number): Tallies {
    const open = this.#openTasks();
    const overdue = open.filter((task) => this.#isOverdue(task, now));
    const reasons = this.#earshot(open);
    return {
      overdue: {
        count: overdue.length,
        oldestWorkingDays: overdue.reduce(
          (most, task) => Math.max(most, this.#source.planner.dates.workingDaysOverdue(task, now)),
          0
        )
      },
      dueToday: open.filter((task) => this.#isDueToday(task, now)).length,
      byAge: overdueByAge(this.#source.planner, open, now),
      ...this.#attention(open, now, viewer),
      outOfEarshot: EARSHOT_REASONS.flatMap((reason) => {
        const silent = open.filter(({ id }) => reasons.get(id) === reason);
        if (silent.length === 0) return [];
        const tasks = silent.slice(0, NAMED).map((task) => ({ id: task.id, name: nameFor(task, viewer) }));
        const ids = silent.slice(0, MOST_MENDED).map(({ id }) => id);
        return [{ reason, count: silent.length, ids, tasks }];
      })
    };
  }

  /** Who is stuck, what slips again and again, whose day is too loud. */
  #attention(
    open: readonly TaskFacts[],
    now: number,
    viewer: Viewer
  ): Pick<TowerDay, 'stuck' | 'slipping' | 'loud'> {
    const { taskDetails } = this.#stores;
    const since = taskDetails.stuckSince();
    return {
      stuck: stuckPeople(this.#source.planner, open, now, (id) => since.get(id) ?? now),
      slipping: slippingAgain(open, taskDetails.slips(), viewer),
      loud: loudDays(this.#stores, this.#source.facts.people, now, viewer.zone)
    };
  }

  #downtime(viewer: Viewer, now: number): DowntimeView | null {
    const down = this.#stores.engineState.read<{ from: number; until: number }>('downtime');
    if (!down || now - down.until > MS_PER_DAY) return null;
    const { zone } = viewer;
    const moment = (at: number) => shortMoment(at, zone, zone.dayOf(now));
    const rung = this.#stores.notices.rungBetween(down.from, down.until);
    if (rung.length === 0) return null;
    const count = (...states: string[]) => rung.filter(({ state }) => states.includes(state)).length;
    return {
      from: moment(down.from),
      until: moment(down.until),
      left: count('sending', 'sent', 'in doubt', 'failed'),
      waiting: count('planned', 'held', 'folded'),
      unrung: count('unrung', 'withdrawn'),
      listed: rung.slice(0, MISSED_LISTED).map((notice) => {
        const task = this.#stores.tasks.factsOf(notice.taskId);
        return {
          at: moment(notice.ringAt),
          task: task ? nameFor(task, viewer) : 'a removed task',
          person: this.#source.facts.people.get(notice.readerId)?.name ?? 'somebody outside',
          became: notice.reason ? `${notice.state}, ${notice.reason}` : notice.state
        };
      })
    };
  }

  #standing(viewer: Viewer, now: number): StandingView | null {
    const standing = this.#engine.standing;
    if (!standing) return null;
    const { zone } = viewer;
    const moment = (at: number) => shortMoment(at, zone, zone.dayOf(now));
    const missed = [
      ...this.#stores.plan.all().map(({ taskId, ruleId, ringAt }) => ({ taskId, ruleId, at: ringAt })),
      ...this.#stores.notices
        .waiting()
        .flatMap(({ taskId, ruleId, leavesAt: at }) => (at === null ? [] : { taskId, ruleId, at }))
    ]
      .filter(({ at }) => at <= now)
      .sort((a, b) => a.at - b.at);
    return {
      why: standing.why,
      since: moment(standing.since),
      until: moment(standing.until),
      count: missed.length,
      underWay: this.#stores.outbox.unfinished(),
      listed: missed.slice(0, MISSED_LISTED).map(({ taskId, ruleId, at }) => {
        const task = this.#stores.tasks.factsOf(taskId);
        return {
          at: moment(at),
          task: task ? nameFor(task, viewer) : 'a removed task',
          rule: this.#stores.rules.byId(ruleId)?.name ?? 'a removed rule'
        };
      })
    };
  }

  /**
   * The ids of one of the sets that are counted.
   * @param band of what is overdue: how late by working days
   */
  idsOf(set: TaskSet, band: Band | null = null): number[] {
    const now = this.#clock.now();
    const open = this.#openTasks();
    if (set === 'out of earshot') return [...this.#earshot(open).keys()];
    const { planner } = this.#source;
    const isIn = (task: TaskFacts) =>
      set === 'today'
        ? this.#isDueToday(task, now)
        : this.#isOverdue(task, now) &&
          (band === null || bandOf(planner.dates.workingDaysOverdue(task, now)) === band);
    return open.filter(isIn).map(({ id }) => id);
  }

  #openTasks(): TaskFacts[] {
    return this.#source.whole.tasks().filter(isOpenWork);
  }

  #isOverdue(task: TaskFacts, now: number): boolean {
    if (!canBeOverdue(task)) return false;
    const dueAt = this.#source.planner.dates.momentOf('due', task);
    return dueAt !== null && now >= dueAt;
  }

  /** Due today where its owner is. */
  #isDueToday(task: TaskFacts, now: number): boolean {
    if (!task.due || this.#isOverdue(task, now)) return false;
    const { zone } = this.#source.planner.dates.dateSource(task);
    return dueDayForReader(task.due, zone) === zone.dayOf(now);
  }

  /** Open tasks for which no rule that is on has rung or will ring in this round, with the first reason that holds. */
  #earshot(open: readonly TaskFacts[]): ReadonlyMap<number, EarshotReason> {
    const { planner, changesSeen, isHeld } = this.#source;
    return this.#silent.get([planner, changesSeen], () => this.#lookForSilent(open), isHeld);
  }

  #lookForSilent(open: readonly TaskFacts[]): Map<number, EarshotReason> {
    const heard = this.#stores.notices.tasksHeard();
    for (const taskId of this.#stores.plan.taskIds()) heard.add(taskId);
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
          ifComputable(() => planner.watches(facts, task, this.#clock.now()), false) &&
          planner.audience.everybody(facts, task).length > 0
      );
  }

  #reason(task: TaskFacts): EarshotReason {
    if (!task.due && !task.start && !task.remindOn) return 'no date';
    if (task.ownerId === null) return 'no owner';
    if (this.#nobodyReachable(task)) return 'nobody with an address';
    const rules = this.#source.liveRules();
    const { planner } = this.#source;
    return rules.some(({ facts }) =>
      ifComputable(() => planner.watches(facts, task, this.#clock.now()), false)
    )
      ? 'every lead past'
      : 'outside every Watch';
  }

  #nobodyReachable(task: TaskFacts): boolean {
    const { planner } = this.#source;
    const told = this.#source
      .liveRules()
      .filter(({ facts }) => ifComputable(() => planner.watches(facts, task, this.#clock.now()), false))
      .flatMap(({ facts }) => planner.audience.everybody(facts, task));
    return told.length > 0 && !told.some(isReachable);
  }
}
