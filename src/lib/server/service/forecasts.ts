import { explainNotice } from '../../core/forecast/explain.ts';
import { compileRule, leadOf, type RuleFacts } from '../../core/forecast/compile-rule.ts';
import { isOpenWork, isReachable, type Facts, type TaskFacts } from '../../core/forecast/facts.ts';
import { forecast, type Forecast } from '../../core/forecast/forecast.ts';
import { noticeKind } from '../../core/forecast/notice-kind.ts';
import { shownAt } from '../../core/forecast/plain-rules.ts';
import { Planner, type PlannedNotice } from '../../core/forecast/planner.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { leadWords, readBack } from '../../core/rule/read-back.ts';
import { ruleFaults, type RuleFault } from '../../core/rule/check.ts';
import type { NoticeKind } from '../../core/rule/model.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { stripOf, twoTimes } from '../../view/bells.ts';
import type { BellKind, BellView, RuleForecastView } from '../../view/models.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { forecastHistory, runAhead, waitingNotice } from '../engine/history.ts';
import { recordNames } from '../engine/names.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import type { Words } from '../engine/words.ts';
import { foretold, saidOf, type ForetoldMessage } from './foretold.ts';
import { knownTo } from './known-to.ts';
import type { RuleInput } from './rules.ts';
import type { Viewer } from './viewer.ts';

/** Bells listed in one answer; the rest are counted. */
const LISTED = 300;
/** Tasks that are read one by one rather than all at once. */
const MOST_ONE_BY_ONE = 5_000;
/** Tasks of which conditions are asked one by one rather than all at once. */
const ONE_BY_ONE_DETAILS = 500;
/** Days that the forecast of one rule looks ahead. */
export const RULE_WINDOW_DAYS = 28;

/** A forecast with what is needed to explain it. */
interface Simulated extends Forecast {
  planner: Planner;
  rules: ReadonlyMap<number, RuleFacts>;
  tasks: ReadonlyMap<number, TaskFacts>;
}

/** What will ring, if nothing changes. */
export class ForecastService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #words: Words;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock, words: Words) {
    this.#words = words;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** Every notice of all rules that are on in `(from, until]`, as the viewer reads it. */
  bells(from: InstantMs, until: InstantMs, viewer: Viewer): BellView[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const waiting = this.#stores.notices.waiting();
    const simulated = this.#simulate(rules, from, until, waiting, this.#tasksThatRing(until, waiting));
    return [...simulated.notices].map((notice) => this.#view(simulated, notice, viewer));
  }

  /** The same as plain notices: what the engine will do, to be compared with what it does. */
  notices(from: InstantMs, until: InstantMs): PlannedNotice[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    return [...this.#simulate(rules, from, until, this.#stores.notices.waiting()).notices];
  }

  /** The messages of all rules in `(from, until]`, with their words as they would be when they leave. */
  messages(from: InstantMs, until: InstantMs): ForetoldMessage[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const simulated = this.#simulate(rules, from, until, this.#stores.notices.waiting());
    const said = [...simulated.notices]
      .filter(({ unrung }) => unrung === null)
      .map((notice) => saidOf(notice, simulated));
    return foretold(said, simulated.planner, this.#words);
  }

  /** Messages of each rule from now to an instant. */
  countByRule(until: InstantMs): ReadonlyMap<number, number> {
    const seen = new Set<string>();
    const counts = new Map<number, number>();
    for (const { ruleId, readerId, leavesAt, taskId, stepId } of this.notices(this.#clock.now(), until)) {
      const tell = this.#source.live(ruleId)?.facts.program.tells.get(stepId);
      const alone = tell?.step.gather === 'per task' ? taskId : '';
      const key = [ruleId, readerId, leavesAt, alone].join('/');
      if (seen.has(key)) continue;
      seen.add(key);
      counts.set(ruleId, (counts.get(ruleId) ?? 0) + 1);
    }
    return counts;
  }

  /**
   * Tasks of which something can leave by an instant: those that ring by then, as the kept plan has it, and those of which something
   * waits. A hold only ever moves a notice later, so no other can. While the plan is stale: all of them.
   */
  #tasksThatRing(until: InstantMs, waiting: readonly NoticeRecord[]): TaskFacts[] {
    const { plan, tasks } = this.#stores;
    const scheduled = plan.nextScheduleAt();
    if (plan.staleCount() > 0 || (scheduled !== null && scheduled <= until)) return tasks.facts();
    const running = this.#stores.runs.waiting().flatMap(({ taskId }) => taskId ?? []);
    const ids = new Set([...plan.tasksBy(until), ...waiting.map(({ taskId }) => taskId), ...running]);
    // Asked one by one each costs more than in one pass over all.
    if (ids.size > MOST_ONE_BY_ONE) return tasks.facts();
    return [...ids].flatMap((id) => tasks.factsOf(id) ?? []);
  }

  /** The coming notices of one task. */
  ofTask(taskId: number, until: InstantMs, viewer: Viewer): BellView[] {
    const rules = this.#source.liveRules().map(({ facts }) => facts);
    const task = this.#stores.tasks.factsOf(taskId);
    const waiting = this.#stores.notices.waitingOf(taskId);
    const simulated = this.#simulate(rules, this.#clock.now(), until, waiting, task ? [task] : []);
    return [...simulated.notices].map((notice) => this.#view(simulated, notice, viewer));
  }

  /**
   * What one rule would do as it is written now, alone. A rule with faults is computed as far as it goes.
   * @param days how far ahead
   */
  ofRule(ruleId: number, input: RuleInput, viewer: Viewer, days = RULE_WINDOW_DAYS): RuleForecastView {
    const now = this.#clock.now();
    const until = now + days * MS_PER_DAY;
    const known = knownTo(this.#stores);
    const faults = ruleFaults(input.name, input.definition, known, ruleId);
    const usable = withoutFaults(input, faults, known);
    const keeperId = this.#stores.rules.byId(ruleId)?.keeperId ?? null;
    const rule = compileRule(ruleId, input.name, 0, usable.definition, keeperId, false, this.#source.facts);
    const tasks = this.#stores.tasks.facts();
    const simulated = this.#simulate(
      [rule],
      now,
      until,
      this.#stores.notices.waiting().filter((waits) => waits.ruleId === ruleId),
      tasks
    );
    const bells = simulated.notices.first(LISTED).map((notice) => this.#view(simulated, notice, viewer));
    const { told, counts } = tally(simulated);
    const rows = [...simulated.planner.facts.people.values()].filter(({ id }) => told.has(id)).slice(0, 12);
    const watched = tasks.filter((task) => simulated.planner.watches(rule, task, now));
    return {
      strip: stripOf(rows, bells, now, until, now, viewer.zone),
      bells,
      more: simulated.notices.length - bells.length,
      counts,
      outOfEarshot: outOfEarshot(simulated.planner, rule, watched, viewer),
      faults,
      broken: [...new Set(simulated.faults.map(({ message }) => message))].slice(0, 5),
      watched: watched.length,
      acts: simulated.acts.length,
      sentence: readBack(input.definition, recordNames(this.#stores)),
      until: shortDay(viewer.zone.dayOf(until), viewer.zone.dayOf(now))
    };
  }

  /** A recorded notice as the viewer reads it, with the why that was written when it rang. */
  recorded(notice: NoticeRecord, viewer: Viewer): BellView {
    const rule = this.#stores.rules.byId(notice.ruleId);
    const live = this.#source.liveRules().find(({ facts }) => facts.id === notice.ruleId);
    const facts = live?.facts.ofTask ? this.#stores.tasks.factsOf(notice.taskId) : null;
    const lead = leadOf(live?.facts, facts, notice.leadId);
    const person = this.#source.facts.people.get(notice.recipientId);
    const task = this.#stores.tasks.byId(notice.taskId);
    const reader = this.#source.facts.people.get(notice.readerId);
    const zone = reader?.zone ?? viewer.zone;
    const now = this.#clock.now();
    const leaves = notice.leavesAt ?? notice.ringAt;
    const unrung =
      notice.state === 'unrung' || notice.state === 'withdrawn' ? (notice.reason ?? notice.state) : null;
    return {
      key: `n${notice.id}`,
      kind: unrung
        ? 'unrung'
        : notice.lateBell
          ? 'late bell'
          : leaves !== notice.ringAt
            ? 'held'
            : 'reminder',
      ruleId: notice.ruleId,
      ruleName: rule?.name ?? 'a rule that is gone',
      lead: lead ? leadWords(lead.lead) : 'a lead that was taken out',
      taskId: notice.taskId,
      taskName: task ? nameFor(task, viewer) : 'a task that is gone',
      recipientId: notice.recipientId,
      recipientName: person?.name ?? 'somebody who is gone',
      readerId: notice.readerId,
      readerName: reader?.name ?? 'somebody who is gone',
      time: twoTimes(unrung ? notice.ringAt : leaves, zone, viewer.zone, now),
      heldFrom: !unrung && leaves !== notice.ringAt ? twoTimes(notice.ringAt, zone, viewer.zone, now) : null,
      unrung,
      lateBell: notice.lateBell,
      ifActs: null,
      why: notice.why.map((step) => ({ code: step.code, text: whyText(step) }))
    };
  }

  #simulate(
    rules: readonly RuleFacts[],
    from: InstantMs,
    until: InstantMs,
    waiting: readonly NoticeRecord[],
    tasks: readonly TaskFacts[] = this.#stores.tasks.facts()
  ): Simulated {
    const now = this.#clock.now();
    const facts = this.#factsFor(rules, tasks.length);
    const planner = new Planner(facts, this.#source.history);
    const byId = new Map(rules.map((rule) => [rule.id, rule]));
    const held = waiting.map((notice) => {
      const rule = byId.get(notice.ruleId);
      const task = rule?.ofTask ? this.#stores.tasks.factsOf(notice.taskId) : null;
      return waitingNotice(notice, rule, task, this.#stores.runs.ofRing(notice.ringId));
    });
    const runs = this.#stores.runs
      .waiting()
      .filter(({ ruleId }) => byId.has(ruleId))
      .flatMap((run) => runAhead(run, this.#source) ?? []);
    const history = forecastHistory(this.#stores, this.#source, planner, now, held, runs);
    const result = forecast(facts, rules, tasks, { now, from, until }, history);
    return {
      ...result,
      planner,
      rules: byId,
      tasks: new Map([...tasks, ...result.imagined].map((task) => [task.id, task]))
    };
  }

  /** What many tasks are asked is read of all of them at once. */
  #factsFor(rules: readonly RuleFacts[], tasks: number): Facts {
    const { facts } = this.#source;
    const asks = rules.some((rule) => rule.watch.asks || !rule.plain || rule.stop.condition !== null);
    return asks && tasks > ONE_BY_ONE_DETAILS ? { ...facts, detailsOf: this.#source.allDetails() } : facts;
  }

  #view(simulated: Simulated, notice: PlannedNotice, viewer: Viewer): BellView {
    const rule = simulated.rules.get(notice.ruleId)!;
    const task = simulated.tasks.get(notice.taskId)!;
    const { people } = simulated.planner.facts;
    const recipient = people.get(notice.recipientId)!;
    const reader = people.get(notice.readerId) ?? recipient;
    const lead = leadOf(rule, task, notice.leadId);
    const kept = notice.unrung === 'same moment' ? keptFor(notice, simulated.notices) : null;
    const recorded = notice.noticeId === null ? null : this.#stores.notices.byId(notice.noticeId);
    const why =
      recorded && notice.unrung === null
        ? recorded.why
        : explainNotice(simulated.planner, rule, task, notice, kept?.leadId);
    const now = this.#clock.now();
    const held = notice.unrung === null && notice.leavesAt !== notice.ringAt;
    return {
      key: [
        notice.ruleId,
        notice.leadId,
        notice.ordinal,
        notice.stepId,
        notice.taskId,
        notice.recipientId,
        notice.ringAt
      ].join('.'),
      kind: kindOf(notice, kindOfNotice(rule, lead, notice.stepId)),
      ruleId: rule.id,
      ruleName: rule.name,
      lead: lead ? leadWords(lead.lead, recordNames(this.#stores)) : 'a lead that was taken out',
      taskId: task.id,
      taskName: nameFor(task, viewer),
      recipientId: recipient.id,
      recipientName: recipient.name,
      readerId: reader.id,
      readerName: reader.name,
      time: twoTimes(shownAt(notice), reader.zone, viewer.zone, now),
      heldFrom: held ? twoTimes(notice.ringAt, recipient.zone, viewer.zone, now) : null,
      unrung: notice.unrung,
      lateBell: notice.lateBell,
      ifActs: notice.ifActs === null ? null : (simulated.rules.get(notice.ifActs)?.name ?? 'a rule'),
      why: why.map((step) => ({ code: step.code, text: whyText(step) }))
    };
  }
}

/** What stands above the list of a rule's bells, and everybody who stands in it. */
function tally({ notices, pastRings }: Forecast): {
  told: Set<number>;
  counts: RuleForecastView['counts'];
} {
  const counts = { bells: 0, people: 0, held: 0, late: 0, unrung: 0, past: pastRings };
  const told = new Set<number>();
  const rung = new Set<number>();
  for (const { readerId, unrung, leavesAt, ringAt, lateBell } of notices) {
    told.add(readerId);
    if (lateBell) counts.late++;
    if (unrung !== null) counts.unrung++;
    else {
      counts.bells++;
      rung.add(readerId);
      if (leavesAt !== ringAt) counts.held++;
    }
  }
  return { told, counts: { ...counts, people: rung.size } };
}

/** The notice that is sent in place of one that is unrung for the same moment. */
function keptFor(unrung: PlannedNotice, notices: Forecast['notices']): PlannedNotice | null {
  for (const other of notices) {
    if (
      other.unrung === null &&
      other.ruleId === unrung.ruleId &&
      other.taskId === unrung.taskId &&
      other.recipientId === unrung.recipientId &&
      other.leavesAt === unrung.leavesAt
    )
      return other;
  }
  return null;
}

/** Why a rule has nothing to ring for some of the tasks that it watches: the first reason that holds. */
function outOfEarshot(
  planner: Planner,
  rule: RuleFacts,
  watched: readonly TaskFacts[],
  viewer: Viewer
): RuleForecastView['outOfEarshot'] {
  const groups = new Map<string, { id: number; name: string }[]>();
  for (const task of watched) {
    if (!isOpenWork(task)) continue;
    const reason = silentReason(planner, rule, task);
    if (!reason) continue;
    const group = groups.get(reason) ?? [];
    groups.set(reason, [...group, { id: task.id, name: nameFor(task, viewer) }]);
  }
  return [...groups].map(([reason, tasks]) => ({ reason, count: tasks.length, tasks: tasks.slice(0, 8) }));
}

/** Nobody reads the name of another person's private task. */
function nameFor(task: Pick<TaskFacts, 'name' | 'private' | 'ownerId'>, viewer: Viewer): string {
  return task.private && task.ownerId !== viewer.personId ? 'a private task' : task.name;
}

function silentReason(planner: Planner, rule: RuleFacts, task: TaskFacts): string | null {
  const anchors = new Set(rule.planned.map(({ anchor }) => anchor));
  const [only] = anchors;
  // What rings by a schedule, an event or by hand needs no date.
  if (!only || rule.planned.length < rule.leads.length) return null;
  if (!rule.planned.some((lead) => planner.anchor(lead, task)))
    return anchors.size > 1 || only === 'own date'
      ? 'no date'
      : `no ${only === 'remind on' ? 'reminder' : only} date`;
  const { leading } = rule.program;
  if (leading.length === 0) return null;
  const told = planner.audience(rule, task);
  if (told.length === 0 && task.ownerId === null) return 'no owner';
  if (told.length === 0)
    return leading.every(({ single }) => single === 'manager') ? 'an owner without a manager' : 'nobody told';
  return told.some(isReachable) ? null : 'nobody with an address';
}

function kindOfNotice(rule: RuleFacts, lead: ReturnType<typeof leadOf>, stepId: string): NoticeKind {
  const tell = rule.program.tells.get(stepId);
  return tell && lead ? noticeKind(tell, lead) : 'reminder';
}

function kindOf(notice: PlannedNotice, kind: NoticeKind): BellKind {
  if (notice.unrung !== null) return 'unrung';
  if (notice.lateBell) return 'late bell';
  if (notice.leavesAt !== notice.ringAt) return 'held';
  return kind === 'overdue' || kind === 'escalation' ? 'overdue' : 'reminder';
}

/** What is not whole yet is left out of the forecast; its fault stands beside it. */
function withoutFaults(
  input: RuleInput,
  faults: readonly RuleFault[],
  known: Parameters<typeof ruleFaults>[2]
): RuleInput {
  if (faults.length === 0) return input;
  const { definition } = input;
  const isSound = (patch: Partial<RuleInput['definition']>, parts: readonly RuleFault['part'][]) =>
    !ruleFaults('x', { ...definition, ...patch }, known).some(({ part }) => parts.includes(part));
  const faulty = new Set(
    faults.flatMap(({ step, code }) => (step && code !== 'rule-no-recipient' ? [step] : []))
  );
  return {
    ...input,
    definition: {
      ...definition,
      leads: definition.leads.filter((lead) => isSound({ leads: [{ ...lead, on: true }] }, ['ring'])),
      steps: definition.steps.filter(({ id }) => !faulty.has(id)),
      watch: isSound({}, ['watch']) ? definition.watch : { ...definition.watch, condition: null },
      stop: isSound({}, ['stop']) ? definition.stop : { condition: null, afterNotices: null, until: null }
    }
  };
}
