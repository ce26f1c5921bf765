import { explainNotice } from '../../core/forecast/explain.ts';
import {
  compileRule,
  isOpenWork,
  isReachable,
  leadOf,
  type RuleFacts,
  type TaskFacts
} from '../../core/forecast/facts.ts';
import { forecast, shownAt, type Forecast } from '../../core/forecast/forecast.ts';
import { Planner, type PlannedNotice } from '../../core/forecast/planner.ts';
import { whyText } from '../../core/ring/why-text.ts';
import { leadWords, readBack } from '../../core/rule/read-back.ts';
import { ruleFaults, type RuleFault } from '../../core/rule/check.ts';
import { watches } from '../../core/rule/watch.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { stripOf, twoTimes } from '../../view/bells.ts';
import type { BellKind, BellView, RuleForecastView } from '../../view/models.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import type { RuleInput } from './rules.ts';
import type { Viewer } from './viewer.ts';

/** Bells listed in one answer; the rest are counted. */
const LISTED = 300;
/** Tasks that are read one by one rather than all at once. */
const MOST_ONE_BY_ONE = 5_000;
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

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock) {
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

  /**
   * Tasks of which something can leave by an instant: those that ring by then, as the kept plan has it, and those of which something
   * waits. A hold only ever moves a notice later, so no other can. While the plan is stale: all of them.
   */
  #tasksThatRing(until: InstantMs, waiting: readonly NoticeRecord[]): TaskFacts[] {
    const { plan, tasks } = this.#stores;
    if (plan.staleCount() > 0) return tasks.facts();
    const ids = new Set([...plan.tasksBy(until), ...waiting.map(({ taskId }) => taskId)]);
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
    const projects = new Map(this.#stores.projects.all().map(({ id, name }) => [id, name]));
    const faults = ruleFaults(input.name, input.definition, (id) => projects.has(id));
    const usable = withoutFaultyLeads(input, faults);
    const keeperId = this.#stores.rules.byId(ruleId)?.keeperId ?? null;
    const rule = compileRule(ruleId, input.name, 0, usable.definition, keeperId);
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
    const watched = tasks.filter((task) => watches(rule.watch, task));
    return {
      strip: stripOf(rows, bells, now, until, now, viewer.zone),
      bells,
      more: simulated.notices.length - bells.length,
      counts,
      outOfEarshot: outOfEarshot(simulated.planner, rule, watched, viewer),
      faults,
      broken: [...new Set(simulated.faults.map(({ message }) => message))].slice(0, 5),
      watched: watched.length,
      sentence: readBack(input.definition, (id) => projects.get(id) ?? 'a project that is gone'),
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
    const { planner } = this.#source;
    const result = forecast(
      planner.facts,
      rules,
      tasks,
      { now, from, until },
      {
        waiting: waiting.map((notice) => this.#planned(notice, rules)),
        sentToday: (personId) => {
          const { zone } = planner.facts.people.get(personId)!;
          const day = zone.dayOf(now);
          return this.#stores.outbox.sentTo(personId, zone.startOfDay(day), zone.endOfDay(day));
        },
        // A lead keeps its key through an edit of its time, so what has left may seem to lie ahead again.
        occupied: (rule, lead, task, recipient) =>
          this.#stores.notices.occupied({
            ruleId: rule.id,
            leadId: lead.lead.id,
            taskId: task.id,
            anchorValue: planner.anchorValue(lead, task),
            round: task.round,
            recipientId: recipient.id
          })
      }
    );
    return {
      ...result,
      planner,
      rules: new Map(rules.map((rule) => [rule.id, rule])),
      tasks: new Map(tasks.map((task) => [task.id, task]))
    };
  }

  #planned(notice: NoticeRecord, rules: readonly RuleFacts[]): PlannedNotice {
    const rule = rules.find(({ id }) => id === notice.ruleId);
    const lead = leadOf(rule, rule?.ofTask ? this.#stores.tasks.factsOf(notice.taskId) : null, notice.leadId);
    return {
      ruleId: notice.ruleId,
      leadId: notice.leadId,
      leadOrder: lead?.order ?? 0,
      taskId: notice.taskId,
      recipientId: notice.recipientId,
      readerId: notice.readerId,
      ringAt: notice.ringAt,
      leavesAt: notice.leavesAt ?? notice.ringAt,
      originDay: notice.originDay,
      lateBell: notice.lateBell,
      folded: notice.state === 'folded',
      unrung: null,
      noticeId: notice.id
    };
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
      key: `${notice.ruleId}.${notice.leadId}.${notice.taskId}.${notice.recipientId}`,
      kind: kindOf(notice, lead?.lead.n ?? 0),
      ruleId: rule.id,
      ruleName: rule.name,
      lead: lead ? leadWords(lead.lead) : 'a lead that was taken out',
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
  const anchors = new Set(rule.leads.map(({ lead: { anchor } }) => anchor));
  const [only] = anchors;
  if (!only) return null;
  if (!rule.leads.some((lead) => planner.anchor(lead, task)))
    return anchors.size > 1 ? 'no date' : `no ${only === 'remind on' ? 'reminder' : only} date`;
  if (task.ownerId === null) return 'no owner';
  const told = planner.recipients(rule, task);
  if (told.length === 0) return rule.tell.to === 'manager' ? 'an owner without a manager' : 'nobody told';
  return told.some(isReachable) ? null : 'nobody with an address';
}

function kindOf(notice: PlannedNotice, n: number): BellKind {
  if (notice.unrung !== null) return 'unrung';
  if (notice.lateBell) return 'late bell';
  if (notice.leavesAt !== notice.ringAt) return 'held';
  return n > 0 ? 'overdue' : 'reminder';
}

/** A lead that is not whole yet is left out of the forecast; its fault stands beside it. */
function withoutFaultyLeads(input: RuleInput, faults: readonly RuleFault[]): RuleInput {
  if (!faults.some(({ part }) => part === 'ring')) return input;
  const sound = input.definition.leads.filter(
    (lead) =>
      !ruleFaults('x', { ...input.definition, leads: [{ ...lead, on: true }] }, () => true).some(
        ({ part }) => part === 'ring'
      )
  );
  return { ...input, definition: { ...input.definition, leads: sound } };
}
