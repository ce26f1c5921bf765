import { compileRule, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { difference } from '../../core/forecast/explain/difference.ts';
import type { Facts } from '../../core/forecast/facts/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import type { ForecastHistory, ForecastWindow } from '../../core/forecast/simulate/model.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import { Planner } from '../../core/forecast/plan/planner.ts';
import { RUSH, messagesAtOnce } from '../../core/lint/rush.ts';
import type { LiveOther } from '../../core/lint/model.ts';
import { ruleFaults } from '../../core/rule/check.ts';
import type { RuleFault } from '../../core/rule/rule-fault.ts';
import { withoutFaults } from '../../core/rule/without-faults.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import { NO_DETAILS } from '../../core/task/details.ts';
import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { bellView } from '../../view/bell-view.ts';
import type { RuleForecastView } from '../../view/models.ts';
import { RULE_WINDOW_DAYS, ruleForecastView } from '../../view/rule-forecast.ts';
import type { BesideView, CheckView } from '../../view/rule-trials.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { historyOf } from '../engine/history.ts';
import type { Stores } from '../store/all.ts';
import { EFFECT_DAYS } from '../effect/effects.ts';
import { knownTo } from './known-to.ts';
import type { RuleInput } from './rules.ts';
import { readingOf } from '../workspace/reading.ts';
import { saidBefore } from './told-by-others.ts';
import type { Viewer } from '../workspace/viewer.ts';
import { withdrawnByRule } from './withdrawals.ts';

/** Differences that are listed; the rest are counted. */
const LISTED = 60;
const WEEK_MS = 7 * MS_PER_DAY;

/** A rule as it is written, made ready as far as it is sound. */
interface Compiled {
  rule: RuleFacts;
  /** What of it is sound. */
  definition: RuleDefinition;
  faults: RuleFault[];
}

/** What one rule would do, before it does anything: for its author. Nothing here changes anything. */
export class RuleOutlooks {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** What it would do as it is written now, alone. A rule with faults is computed as far as it goes. */
  ofRule(ruleId: number, input: RuleInput, viewer: Viewer, days?: number): RuleForecastView {
    const { rule, definition, faults } = this.compile(ruleId, input);
    const tasks = this.#source.whole.tasks();
    const others = this.#others(ruleId);
    const facts = this.#factsOfAll();
    return ruleForecastView({
      ...{ facts, definition, rule, written: input.definition, faults, tasks, others },
      ...(days === undefined ? {} : { days }),
      history: this.historyOf(rule, facts),
      statuses: this.#stores.projects.statuses(),
      reading: readingOf(this.#stores, this.#clock, viewer)
    });
  }

  /** What is known of it without looking at any task: its sentence and its faults. */
  brief(ruleId: number, input: RuleInput, viewer: Viewer): RuleForecastView {
    const { rule, definition, faults } = this.compile(ruleId, input);
    return ruleForecastView({
      ...{ facts: this.#source.facts, definition, rule, written: input.definition, faults, tasks: [] },
      ...{ others: this.#others(ruleId), days: 0, history: {} },
      statuses: this.#stores.projects.statuses(),
      reading: readingOf(this.#stores, this.#clock, viewer)
    });
  }

  /** The draft in the editor beside the version that is live; null where none is. */
  beside(ruleId: number, input: RuleInput, viewer: Viewer): BesideView | null {
    const record = this.#stores.rules.byId(ruleId);
    const live = record?.state === 'on' ? this.#source.live(ruleId)?.facts : undefined;
    if (!live) return null;
    return this.#between(live, this.compile(ruleId, input).rule, viewer);
  }

  /**
   * One version of a rule beside another, each as if it alone were live now.
   * @throws CodedError `version-gone`
   */
  betweenVersions(ruleId: number, beforeId: number, afterId: number, viewer: Viewer): BesideView {
    const [before, after] = [beforeId, afterId].map((id) => {
      const version = this.#stores.rules.version(id);
      if (version?.ruleId !== ruleId) throw new CodedError('version-gone');
      const name = this.#stores.rules.byId(ruleId)!.name;
      return this.compile(ruleId, { name, description: '', definition: version.definition }).rule;
    });
    return this.#between(before!, after!, viewer);
  }

  #between(live: RuleFacts, rule: RuleFacts, viewer: Viewer): BesideView {
    const tasks = this.#source.whole.tasks();
    const now = this.#clock.now();
    const until = now + RULE_WINDOW_DAYS * MS_PER_DAY;
    const of = (one: RuleFacts) => {
      const facts = this.#factsOfAll();
      const told = forecast(facts, [one], tasks, { now, from: now, until }, this.historyOf(one, facts));
      const byId = new Map([...tasks, ...told.imagined].map((task) => [task.id, task]));
      return {
        planner: new Planner(facts),
        rules: new Map([[one.id, one]]),
        tasks: byId,
        notices: told.notices
      };
    };
    const [before, after] = [of(live), of(rule)];
    const { added, gone, moved, same } = difference(before.notices, after.notices);
    const reading = readingOf(this.#stores, this.#clock, viewer);
    const rows: BesideView['rows'] = [
      ...added.map((notice) => ({
        how: 'added' as const,
        bell: bellView(after, notice, reading),
        was: null
      })),
      ...gone.map((notice) => ({ how: 'gone' as const, bell: bellView(before, notice, reading), was: null })),
      ...moved.map((one) => ({
        how: 'moved' as const,
        bell: bellView(after, one.after, reading),
        was: bellView(before, one.before, reading).time
      }))
    ];
    rows.sort((a, b) => a.bell.time.atMs - b.bell.time.atMs);
    return {
      ...{ added: added.length, gone: gone.length, moved: moved.length, same },
      rows: rows.slice(0, LISTED),
      until: shortDay(viewer.zone.dayOf(until), viewer.zone.dayOf(now))
    };
  }

  /**
   * Tasks by whose bells it is seen what turning a rule off ends: those for which something is planned or waits, and those that its schedules will
   * find, which stand in no plan.
   */
  tasksOf(ruleId: number): number[] {
    const planned = this.#stores.plan.tasksOfRule(ruleId);
    const rule = this.#source.live(ruleId)?.facts;
    if (!rule?.leads.some(({ schedule }) => schedule !== null)) return planned;
    const facts = this.#factsOfAll();
    const now = this.#clock.now();
    const window = { now, from: now, until: now + EFFECT_DAYS * MS_PER_DAY };
    const tasks = this.#source.whole.tasks();
    const { notices } = forecast(facts, [rule], tasks, window, this.historyOf(rule, facts));
    return [...new Set([...planned, ...[...notices].map(({ taskId }) => taskId)])].filter((id) => id > 0);
  }

  /** What is said before it is turned on: how much would leave at once, what lies in the past, what it withdraws. */
  check(ruleId: number, input: RuleInput, { zone }: Viewer): CheckView {
    const { rule, faults } = this.compile(ruleId, input);
    const tasks = this.#source.whole.tasks();
    const now = this.#clock.now();
    const facts = this.#factsOfAll();
    const window = { now, from: now, until: now + WEEK_MS };
    const { notices, pastRings } = forecast(facts, [rule], tasks, window, this.historyOf(rule, facts));
    const counts = [...messagesAtOnce({ notices, rule })].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    const [most] = counts;
    const moment = (at: InstantMs) => shortMoment(at, zone, zone.dayOf(now));
    const withdraws = withdrawnByRule(this.#stores, ruleId, input.definition);
    const moments = [
      ...new Set([...notices].flatMap(({ unrung, leavesAt }) => (unrung === null ? [moment(leavesAt)] : [])))
    ];
    return {
      faults,
      atOnce: most ? { count: most[1], at: moment(most[0]) } : null,
      rush: most !== undefined && most[1] > RUSH,
      week: counts.reduce((sum, [, count]) => sum + count, 0),
      people: new Set([...notices].flatMap(({ readerId, unrung }) => (unrung === null ? [readerId] : [])))
        .size,
      past: pastRings,
      ...this.#saidBefore(rule, facts, [...notices], window),
      next: moments.slice(0, 3),
      withdraws
    };
  }

  /** What is not sent because it and other rules that are on tell the same. */
  #saidBefore(
    rule: RuleFacts,
    facts: Facts,
    notices: readonly PlannedNotice[],
    window: ForecastWindow
  ): Pick<CheckView, 'silences' | 'silenced'> {
    const told = new Set(notices.flatMap(({ unrung, taskId }) => (unrung === null ? [taskId] : [])));
    const tasks = this.#source.whole.tasks().filter(({ id }) => told.has(id));
    const others = this.#source
      .liveRules()
      .map((live) => live.facts)
      .filter(({ id }) => id !== rule.id);
    const all = new Map([...others, rule].map((one) => [one.id, one]));
    const waiting = this.#stores.notices.waiting().filter(({ taskId }) => told.has(taskId));
    const planner = new Planner(facts, this.#source.history);
    const history = historyOf(
      { stores: this.#stores, source: this.#source, planner, now: window.now },
      all,
      waiting,
      tasks
    );
    const { ofOthers, own } = saidBefore(facts, rule, others, tasks, window, history);
    return {
      silences: ofOthers.map(({ ruleId, notices: count }) => ({
        rule: all.get(ruleId)!.name,
        notices: count
      })),
      silenced: own
    };
  }

  /** The workspace with the details of every task at hand. */
  #factsOfAll(): Facts {
    const details = this.#source.whole.details();
    return { ...this.#source.facts, detailsOf: (id) => details.get(id) ?? NO_DETAILS };
  }

  /** A rule as it is written, made ready as far as it is sound. */
  compile(ruleId: number, input: RuleInput): Compiled {
    const known = knownTo(this.#stores);
    const faults = ruleFaults(input.name, input.definition, known, ruleId);
    const definition = withoutFaults(input.definition, faults, known);
    const record = this.#stores.rules.byId(ruleId);
    const rule = compileRule(ruleId, input.name, record?.position ?? 0, definition, {
      keeperId: record?.keeperId ?? null,
      world: this.#source.facts
    });
    return { rule, definition, faults };
  }

  /** The other rules that are on. */
  #others(ruleId: number): LiveOther[] {
    return this.#source.liveRules().flatMap(({ facts, versionId }) => {
      const version = facts.id === ruleId || facts.ofTask ? null : this.#stores.rules.version(versionId);
      return version ? [{ rule: facts, definition: version.definition }] : [];
    });
  }

  /** What has been of a rule until now, as its forecast goes on from it. */
  historyOf(rule: RuleFacts, facts: Facts): ForecastHistory {
    const waiting = this.#stores.notices.waiting().filter(({ ruleId }) => ruleId === rule.id);
    const planner = new Planner(facts, this.#source.history);
    return historyOf(
      { stores: this.#stores, source: this.#source, planner, now: this.#clock.now() },
      new Map([[rule.id, rule]]),
      waiting
    );
  }
}
