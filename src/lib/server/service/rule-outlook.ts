import { compileRule, type RuleFacts } from '../../core/forecast/compile-rule.ts';
import { difference } from '../../core/forecast/difference.ts';
import type { Facts, TaskFacts } from '../../core/forecast/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import type { Forecast, ForecastHistory } from '../../core/forecast/model.ts';
import { Planner } from '../../core/forecast/planner.ts';
import { RUSH, messagesAtOnce } from '../../core/lint/rush.ts';
import type { LiveOther } from '../../core/lint/model.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { ruleFaults, type RuleFault } from '../../core/rule/check.ts';
import { withoutFaults } from '../../core/rule/without-faults.ts';
import { allSteps, type RuleDefinition } from '../../core/rule/model.ts';
import { leadWords, stepWords } from '../../core/rule/read-back.ts';
import { inScope } from '../../core/rule/watch.ts';
import { NO_DETAILS } from '../../core/task/details.ts';
import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { bellView, nameFor } from '../../view/bell-view.ts';
import { twoTimes } from '../../view/bells.ts';
import type { RuleForecastView } from '../../view/models.ts';
import { RULE_WINDOW_DAYS, ruleForecastView } from '../../view/rule-forecast.ts';
import type { BesideView, CheckView, TrialEntry, TrialView } from '../../view/rule-trials.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { historyOf } from '../engine/history.ts';
import { recordNames } from '../engine/names.ts';
import type { Words } from '../engine/words.ts';
import type { Stores } from '../store/all.ts';
import { foretold, saidOf } from './foretold.ts';
import { knownTo } from './known-to.ts';
import { reasonsAgainst, rings } from './rule-reasons.ts';
import type { RuleInput } from './rules.ts';
import { readingOf } from './reading.ts';
import type { Viewer } from './viewer.ts';
import { withdrawnByRule } from './withdrawals.ts';

/** Days ahead that a trial looks for rings of its task. */
const TRIAL_DAYS = 90;
/** Differences that are listed; the rest are counted. */
const LISTED = 60;
/** Tasks that are offered for a trial. */
const MOST_TO_TRY = 300;
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
  readonly #words: Words;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, words: Words) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#words = words;
  }

  /** What it would do as it is written now, alone. A rule with faults is computed as far as it goes. */
  ofRule(ruleId: number, input: RuleInput, viewer: Viewer, days?: number): RuleForecastView {
    const { rule, definition, faults } = this.#compile(ruleId, input);
    const tasks = this.#source.whole.tasks();
    const others = this.#others(ruleId);
    const facts = this.#factsOfAll();
    return ruleForecastView({
      ...{ facts, definition, rule, written: input.definition, faults, tasks, others },
      ...(days === undefined ? {} : { days }),
      history: this.#history(rule, facts),
      statuses: this.#stores.projects.statuses(),
      reading: readingOf(this.#stores, this.#clock, viewer)
    });
  }

  /**
   * Tries it on one task: what rings by itself in the next 90 days, and, for ring times that wait for something, what would come if it
   * happened now; each message as it would be received.
   * @throws CodedError `task-gone`
   */
  tryOn(ruleId: number, input: RuleInput, taskId: number, viewer: Viewer): TrialView {
    const task = this.#stores.tasks.factsOf(taskId);
    if (!task || (task.private && task.ownerId !== viewer.personId)) throw new CodedError('task-gone');
    const { rule, definition } = this.#compile(ruleId, input);
    const now = this.#clock.now();
    const { names } = readingOf(this.#stores, this.#clock, viewer);
    const planner = this.#source.planner;
    const entries = (history: Partial<ForecastHistory>, leads: readonly string[]) =>
      this.#entries(rule, definition, task, history, leads, viewer);
    const planned = rule.planned.map(({ lead }) => lead.id);
    const waiting = rule.leads.filter(({ anchor }) => anchor === null);
    const coming = planned.length > 0 ? entries({}, planned) : [];
    const notes = coming.length > 0 ? [] : rings(planner, rule, task, now, viewer.zone.dayOf(now), names);
    const byItself = { asIf: null, entries: coming, notes };
    return {
      taskId,
      task: nameFor(task, viewer),
      against: reasonsAgainst(planner, rule, task, now, names),
      parts: [
        ...(planned.length > 0 ? [byItself] : []),
        ...waiting.map(({ lead }) => ({
          asIf: leadWords(lead, names),
          entries: entries({ runs: [runNow(rule, lead.id, task, now, viewer.personId)] }, [lead.id]),
          notes: []
        }))
      ]
    };
  }

  /** Tasks that it may be tried on: those that it watches first, then others; private ones of others left out. */
  tasksToTry(ruleId: number, input: RuleInput, viewer: Viewer): { id: number; name: string }[] {
    const { rule } = this.#compile(ruleId, input);
    const inside: TaskFacts[] = [];
    const outside: TaskFacts[] = [];
    for (const task of this.#source.whole.tasks()) {
      if (task.private && task.ownerId !== viewer.personId) continue;
      if (inside.length === MOST_TO_TRY) break;
      if (inScope(rule.watch, task)) inside.push(task);
      else if (outside.length < MOST_TO_TRY) outside.push(task);
    }
    return [...inside, ...outside].slice(0, MOST_TO_TRY).map(({ id, name }) => ({ id, name }));
  }

  #entries(
    rule: RuleFacts,
    definition: RuleDefinition,
    task: TaskFacts,
    history: Partial<ForecastHistory>,
    leads: readonly string[],
    { zone }: Viewer
  ): TrialEntry[] {
    const now = this.#clock.now();
    // What rings by itself later is no part of “as if it rang now”.
    const only = history.runs
      ? { ...rule, planned: [], leads: rule.leads.filter(({ lead }) => leads.includes(lead.id)) }
      : rule;
    const facts = this.#source.facts;
    const asked = { ...(history.runs ? {} : this.#history(rule, facts)), ...history };
    const told = forecast(
      facts,
      [only],
      [task],
      { now, from: now - 1, until: now + TRIAL_DAYS * MS_PER_DAY },
      asked
    );
    const planner = new Planner(facts, asked.planner);
    const of = {
      planner,
      rules: new Map([[rule.id, rule]]),
      tasks: new Map([task, ...told.imagined].map((one) => [one.id, one]))
    };
    const sent = [...told.notices].filter(
      ({ unrung, taskId }) => unrung === null && this.#stores.tasks.byId(taskId) !== null
    );
    const messages = foretold(
      sent.map((notice) => saidOf(notice, of)),
      planner,
      this.#words
    ).map((message): TrialEntry => {
      const [first] = message.notices;
      const reader = facts.people.get(first!.readerId)!;
      return {
        at: twoTimes(message.date, reader.zone, zone, now),
        is: 'message',
        words: [...new Set(message.notices.map(({ readerId }) => facts.people.get(readerId)!.name))].join(
          ', '
        ),
        message: {
          ...{ to: message.to, subject: message.subject, text: message.text, html: message.html },
          important: message.importance === 'high',
          files: message.attachments.map(({ name }) => name)
        },
        why: saidOf(first!, of).notice.why.map((step) => ({ code: step.code, text: whyText(step) }))
      };
    });
    const reading = {
      ...readingOf(this.#stores, this.#clock, { zone, personId: null }),
      personId: task.ownerId
    };
    const unrung = [...told.notices]
      .filter((notice) => notice.unrung !== null)
      .map((notice): TrialEntry => {
        const bell = bellView({ ...of, notices: told.notices }, notice, reading);
        return {
          at: bell.time,
          is: 'unrung',
          words: `${bell.recipientName}: ${bell.unrung}`,
          message: null,
          why: bell.why
        };
      });
    return [...messages, ...unrung, ...this.#changes(told, definition, planner, task, zone)].sort(
      (a, b) => a.at.atMs - b.at.atMs
    );
  }

  /** Each step that changes something, once for each moment at which it does. */
  #changes(
    { acts }: Forecast,
    { steps }: RuleDefinition,
    planner: Planner,
    task: TaskFacts,
    zone: Viewer['zone']
  ): TrialEntry[] {
    const names = recordNames(this.#stores);
    const seen = new Set<string>();
    return acts.flatMap(({ at, stepId }): TrialEntry[] => {
      const step = allSteps(steps).find(({ id }) => id === stepId);
      if (!step || seen.has(`${at}/${stepId}`)) return [];
      seen.add(`${at}/${stepId}`);
      const words = `${step.name ? `${step.name}: ` : ''}${stepWords(step, names)}`;
      return [
        {
          at: twoTimes(at, planner.ownerZone(task), zone, this.#clock.now()),
          is: 'change',
          words,
          message: null,
          why: []
        }
      ];
    });
  }

  /** The draft in the editor beside the version that is live; null where none is. */
  beside(ruleId: number, input: RuleInput, viewer: Viewer): BesideView | null {
    const record = this.#stores.rules.byId(ruleId);
    const live = record?.state === 'on' ? this.#source.live(ruleId)?.facts : undefined;
    if (!live) return null;
    const { rule } = this.#compile(ruleId, input);
    const tasks = this.#source.whole.tasks();
    const now = this.#clock.now();
    const until = now + RULE_WINDOW_DAYS * MS_PER_DAY;
    const of = (one: RuleFacts) => {
      const facts = this.#factsOfAll();
      const told = forecast(facts, [one], tasks, { now, from: now, until }, this.#history(one, facts));
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

  /** What is said before it is turned on: how much would leave at once, what lies in the past, what it withdraws. */
  check(ruleId: number, input: RuleInput, { zone }: Viewer): CheckView {
    const { rule, faults } = this.#compile(ruleId, input);
    const tasks = this.#source.whole.tasks();
    const now = this.#clock.now();
    const facts = this.#factsOfAll();
    const window = { now, from: now, until: now + WEEK_MS };
    const { notices, pastRings } = forecast(facts, [rule], tasks, window, this.#history(rule, facts));
    const counts = [...messagesAtOnce({ notices, rule })].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    const [most] = counts;
    const moment = (at: InstantMs) => shortMoment(at, zone, zone.dayOf(now));
    const { notices: waiting, runs, listed } = withdrawnByRule(this.#stores, ruleId, input.definition);
    const moments = [
      ...new Set([...notices].flatMap(({ unrung, leavesAt }) => (unrung === null ? [moment(leavesAt)] : [])))
    ];
    return {
      faults,
      atOnce: most ? { count: most[1], at: moment(most[0]) } : null,
      rush: most !== undefined && most[1] > RUSH,
      week: counts.reduce((sum, [, count]) => sum + count, 0),
      people: new Set([...notices].map(({ readerId }) => readerId)).size,
      past: pastRings,
      next: moments.slice(0, 3),
      withdraws: { notices: waiting, runs, listed: listed.map(({ task, person }) => ({ task, person })) }
    };
  }

  /** The workspace with the details of every task at hand. */
  #factsOfAll(): Facts {
    const details = this.#source.whole.details();
    return { ...this.#source.facts, detailsOf: (id) => details.get(id) ?? NO_DETAILS };
  }

  #compile(ruleId: number, input: RuleInput): Compiled {
    const known = knownTo(this.#stores);
    const faults = ruleFaults(input.name, input.definition, known, ruleId);
    const definition = withoutFaults(input.definition, faults, known);
    const record = this.#stores.rules.byId(ruleId);
    const rule = compileRule(
      ruleId,
      input.name,
      record?.position ?? 0,
      definition,
      record?.keeperId ?? null,
      false,
      this.#source.facts
    );
    return { rule, definition, faults };
  }

  /** The other rules that are on. */
  #others(ruleId: number): LiveOther[] {
    return this.#source.liveRules().flatMap(({ facts, versionId }) => {
      const version = facts.id === ruleId || facts.ofTask ? null : this.#stores.rules.version(versionId);
      return version ? [{ rule: facts, definition: version.definition }] : [];
    });
  }

  #history(rule: RuleFacts, facts: Facts): ForecastHistory {
    const waiting = this.#stores.notices.waiting().filter(({ ruleId }) => ruleId === rule.id);
    const planner = new Planner(facts, this.#source.history);
    return historyOf(
      this.#stores,
      this.#source,
      planner,
      this.#clock.now(),
      new Map([[rule.id, rule]]),
      waiting
    );
  }
}

/** The run of a ring that happens now, from its first step. */
function runNow(rule: RuleFacts, leadId: string, task: TaskFacts, now: InstantMs, actorId: number | null) {
  return {
    ...{
      rule,
      leadId,
      taskId: task.id,
      at: 0,
      until: now,
      ringAt: now,
      ordinal: 0,
      anchorValue: 'tried',
      actorId
    },
    ...{ own: [], regardless: true, asking: false }
  };
}
