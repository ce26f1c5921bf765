import { ifComputable } from '../../core/if-computable.ts';
import { leadOf } from '../../core/forecast/compile-rule.ts';
import {
  canBeOverdue,
  isOpenWork,
  isReachable,
  type Facts,
  type PersonFacts,
  type TaskFacts
} from '../../core/forecast/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import { ladderAfter } from '../../core/forecast/shadow.ts';
import type { ForecastHistory } from '../../core/forecast/model.ts';
import { Planner } from '../../core/forecast/planner.ts';
import type { PlannedNotice } from '../../core/forecast/planned-notice.ts';
import { madeUp } from '../../core/forecast/made-up.ts';
import { isDone } from '../store/tellings.ts';
import { leadWords } from '../../core/rule/read-back.ts';
import type { Phase } from '../../core/rule/model.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { InstantMs, Zone } from '../../core/time/zone.ts';
import { twoTimes } from '../../view/bells.ts';
import type { EffectLine, EffectView } from '../../view/effects.ts';
import { compileFacts } from '../../core/forecast/compile-facts.ts';
import type { FactsInput } from '../../core/forecast/records.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { forecastHistory } from '../engine/history.ts';
import { toldInstead } from '../engine/told-instead.ts';
import { ringKey } from '../engine/ring-key.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import type { Viewer } from './viewer.ts';

/** How far ahead bells are compared, and how much farther is looked for where they move to. */
const WINDOW_DAYS = 60;
const BEYOND_DAYS = 30;
/** Lines of each kind that are listed; the rest are counted. */
const LISTED = 60;

/** What a change of people, calendars or settings would do, before it is saved. */
export class EffectService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;

  constructor(stores: Stores, source: FactsSource, clock: WorkspaceClock) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** What it would move if a status were in another phase. */
  ofPhase(statusId: number, phase: Phase, viewer: Viewer): EffectView {
    const ids = new Set(this.#stores.tasks.idsWithStatus(statusId));
    return this.of(
      (facts) => facts,
      viewer,
      (task) => (ids.has(task.id) ? { ...task, phase } : task)
    );
  }

  /**
   * Compares the next 60 days as they stand with those after a change: bells that move, come or go, due moments, and how long overdue.
   * @param change gives the records as they would be
   * @param changeTask gives a task as it would be, where tasks change too
   * @throws CodedError where the changed records cannot be read
   */
  of(
    change: (input: FactsInput) => FactsInput,
    viewer: Viewer,
    changeTask: (task: TaskFacts) => TaskFacts = (task) => task
  ): EffectView {
    const now = this.#clock.now();
    const tasks = this.#stores.tasks.facts();
    const before = new Look(this.#source.facts, this.#bells(this.#source.facts, tasks, now));
    const changed = compileFacts(change(this.#source.input()), (id) => this.#source.detailsOf(id));
    const after = new Look(changed, this.#bells(changed, tasks.map(changeTask), now));
    const lines = new Lines(before, after, viewer, now);
    for (const task of tasks) if (isOpenWork(task)) lines.compareTask(task);
    lines.compareBells(new Map(tasks.map((task) => [task.id, task])), now + WINDOW_DAYS * MS_PER_DAY);
    return lines.view(WINDOW_DAYS);
  }

  /**
   * What changes of some tasks would do, before they are saved: the same, and what waits and would be withdrawn, and what would be made
   * up for because its moment has passed.
   * @param changes gives each of the tasks as it would be
   */
  ofTasks(changes: ReadonlyMap<number, (task: TaskFacts) => TaskFacts>, viewer: Viewer): EffectView {
    const now = this.#clock.now();
    const { facts, planner } = this.#source;
    const before = [...changes.keys()].flatMap((id) => this.#stores.tasks.factsOf(id) ?? []);
    const after = before.map((task) => changes.get(task.id)!(task));
    // The clocks of their ladders would start again, or stand still.
    const details = new Map(
      before.map((task, i) => [task.id, ladderAfter(task, after[i]!, this.#source.detailsOf(task.id), now)])
    );
    const changed = { ...facts, detailsOf: (id: number) => details.get(id) ?? facts.detailsOf(id) };
    const was = new Look(facts, this.#bells(facts, before, now, planner));
    const is = new Look(changed, this.#bells(changed, after, now, planner));
    const lines = new Lines(was, is, viewer, now);
    before.forEach((task, i) => lines.compareTask(task, after[i]!));
    const byId = new Map(after.map((task) => [task.id, task]));
    lines.compareBells(byId, now + WINDOW_DAYS * MS_PER_DAY);
    before.forEach((task, i) => {
      for (const notice of this.#stores.notices.waitingOf(task.id)) {
        if (!this.#staysOwed(notice, after[i]!)) lines.withdrawn(task, notice);
        for (const { recipient, words } of this.#toldInstead(notice, after[i]!))
          lines.madeUp(after[i]!, recipient, words);
      }
      for (const { recipient, words } of this.#madeUp(task, after[i]!, now, viewer))
        lines.madeUp(after[i]!, recipient, words);
    });
    return lines.view(WINDOW_DAYS);
  }

  /** Whether a notice that waits would still be owed by a task as it would be. */
  #staysOwed(notice: NoticeRecord, task: TaskFacts): boolean {
    const { planner } = this.#source;
    const rule = this.#source.liveRules().find(({ facts }) => facts.id === notice.ruleId)?.facts;
    const lead = leadOf(rule, task, notice.leadId);
    const tell = rule?.program.tells.get(notice.stepId);
    if (!rule || !lead || !tell) return false;
    if (!ifComputable(() => planner.watches(rule, task, this.#clock.now()), false)) return false;
    const actorId = this.#stores.runs.ofRing(notice.ringId)?.actorId ?? null;
    if (!planner.audience.isTold(rule, tell, task, { ...notice, actorId })) return false;
    if (lead.anchor === null) return true;
    return planner.anchor(lead, task) !== null && planner.anchorValue(lead, task) === notice.anchorValue;
  }

  /** Who would be told in somebody's place, as their notice waits and they would be told no more. */
  #toldInstead(notice: NoticeRecord, task: TaskFacts): { recipient: PersonFacts; words: string }[] {
    const { planner } = this.#source;
    const rule = this.#source.live(notice.ruleId)?.facts;
    const lead = leadOf(rule, task, notice.leadId);
    const tell = rule?.program.tells.get(notice.stepId);
    const now = this.#clock.now();
    if (!rule || !lead || !tell || !ifComputable(() => planner.watches(rule, task, now), false)) return [];
    const isSent = (recipient: PersonFacts) => {
      const of = { rule, tell, lead, task, recipient, ordinal: notice.ordinal };
      return madeUp(planner, of, notice.ringAt, 'new recipient', null, now).reason === null;
    };
    return toldInstead(this.#stores, planner, { rule, lead, tell, task }, notice)
      .filter(({ person }) => isSent(person))
      .map(({ person }) => ({ recipient: person, words: leadWords(lead.lead) }));
  }

  /** The latest ring of each rule and recipient whose moment would have passed by a date that moves, or before it comes to them. */
  #madeUp(
    before: TaskFacts,
    after: TaskFacts,
    now: InstantMs,
    viewer: Viewer
  ): { recipient: PersonFacts; words: string }[] {
    const { planner } = this.#source;
    const found: { recipient: PersonFacts; words: string }[] = [];
    const asked = this.#source
      .liveRules()
      .filter(({ facts }) => ifComputable(() => planner.watches(facts, after, now), false))
      .flatMap(({ facts }) => facts.program.leading.map((tell) => ({ rule: facts, tell })));
    for (const { rule, tell } of asked) {
      const told = [...planner.audience.recipients(rule, tell, before)];
      for (const recipient of [...planner.audience.recipients(rule, tell, after)]) {
        const isMover = told.includes(recipient) && recipient.id === viewer.personId;
        if (isMover || !isReachable(recipient)) continue;
        let latest: { at: InstantMs; words: string } | null = null;
        for (const lead of planner.audience.leadsFor(rule, tell, after, recipient)) {
          const instant = ifComputable(() => planner.ring(lead, after, recipient).instant, NaN);
          if (!(instant <= now) || now >= planner.useBy(lead, after, instant)) continue;
          const anchorValue = planner.anchorValue(lead, after);
          const same = planner.anchor(lead, before) && planner.anchorValue(lead, before) === anchorValue;
          const key = ringKey(rule, lead, after, anchorValue, 0);
          const rung = this.#stores.tellings.rung({ ...key, stepId: tell.step.id });
          const isNew = rung.some(isDone) && !told.includes(recipient);
          if (same && !isNew) continue;
          if (rung.some((one) => one.recipientId === recipient.id && isDone(one))) continue;
          if ([now, instant].some((at) => planner.isHushed(rule, tell, after, recipient, at))) continue;
          if (!latest || instant >= latest.at) latest = { at: instant, words: leadWords(lead.lead) };
        }
        if (latest) found.push({ recipient, words: latest.words });
      }
    }
    return found;
  }

  /** @param sent asks whether a ring has left already; null takes none of them into account */
  #bells(
    facts: Facts,
    tasks: readonly TaskFacts[],
    now: InstantMs,
    sent: Planner | null = null
  ): Map<string, PlannedNotice> {
    const rules = this.#source.liveRules().map((rule) => rule.facts);
    const until = now + (WINDOW_DAYS + BEYOND_DAYS) * MS_PER_DAY;
    const history: ForecastHistory = sent
      ? {
          ...forecastHistory(this.#stores, this.#source, sent, now),
          sentToday: () => 0
        }
      : {};
    const known = new Set(tasks.map(({ id }) => id));
    const bells = new Map<string, PlannedNotice>();
    for (const notice of forecast(facts, rules, tasks, { now, from: now, until }, history).notices) {
      // What a rule would make is not there yet, and is another one after the change.
      if (notice.unrung !== null || !known.has(notice.taskId)) continue;
      const { ruleId, leadId, ordinal, stepId, taskId, recipientId } = notice;
      bells.set([ruleId, leadId, ordinal, stepId, taskId, recipientId].join('/'), notice);
    }
    return bells;
  }
}

/** A workspace as it stands, or as it would. */
class Look {
  readonly facts: Facts;
  readonly planner: Planner;
  readonly bells: ReadonlyMap<string, PlannedNotice>;

  constructor(facts: Facts, bells: ReadonlyMap<string, PlannedNotice>) {
    this.facts = facts;
    this.planner = new Planner(facts);
    this.bells = bells;
  }
}

/** The differences of two looks, counted and the first of them listed. */
class Lines {
  readonly #before: Look;
  readonly #after: Look;
  readonly #viewer: Viewer;
  readonly #now: InstantMs;
  readonly #counts: EffectView['counts'] = { moved: 0, added: 0, gone: 0, due: 0, overdue: 0, ages: 0 };
  readonly #lines: EffectLine[] = [];

  constructor(before: Look, after: Look, viewer: Viewer, now: InstantMs) {
    this.#before = before;
    this.#after = after;
    this.#viewer = viewer;
    this.#now = now;
  }

  /** @param changed the task as it would be, where the task itself changes */
  compareTask(task: TaskFacts, changed: TaskFacts = task): void {
    const was = this.#before.planner.dates.momentOf('due', task);
    const is = this.#after.planner.dates.momentOf('due', changed);
    const text = (look: Look, one: TaskFacts, at: InstantMs | null) =>
      at === null ? 'no due date' : this.#time(at, this.#zoneOf(look, one));
    const [before, after] = [text(this.#before, task, was), text(this.#after, changed, is)];
    if (was !== is) this.#add('due', task, null, before, after);
    const late = (one: TaskFacts, at: InstantMs | null) =>
      at !== null && canBeOverdue(one) && this.#now >= at;
    const [wasLate, isLate] = [late(task, was), late(changed, is)];
    if (!wasLate && isLate) this.#add('overdue', task, null, before, after);
    if (!wasLate) return;
    const age = (look: Look, one: TaskFacts, overdue: boolean) =>
      overdue ? workingDays(look.planner.dates.workingDaysOverdue(one, this.#now)) : 'not overdue';
    const ageBefore = age(this.#before, task, wasLate);
    const ageAfter = age(this.#after, changed, isLate);
    if (ageBefore !== ageAfter) this.#add('ages', task, null, ageBefore, ageAfter);
  }

  /** A notice that waits and would no longer be owed. */
  withdrawn(task: TaskFacts, { readerId, leavesAt, ringAt }: NoticeRecord): void {
    const reader = this.#before.facts.people.get(readerId);
    const at = this.#time(leavesAt ?? ringAt, reader?.zone ?? this.#viewer.zone);
    this.#add('gone', task, reader?.name ?? null, at, 'withdrawn');
  }

  /** A ring whose moment would have passed, and that is made up for. */
  madeUp(task: TaskFacts, { name }: PersonFacts, words: string): void {
    this.#add('added', task, name, 'no bell', `made up for, since its moment has passed (${words})`);
  }

  /** @param until bells that leave later on both sides are not compared */
  compareBells(tasks: ReadonlyMap<number, TaskFacts>, until: InstantMs): void {
    const { bells: before } = this.#before;
    const { bells: after } = this.#after;
    const changes: [at: InstantMs, add: () => void][] = [];
    for (const [key, was] of before) {
      const is = after.get(key);
      const task = tasks.get(was.taskId)!;
      const moved = is && (is.leavesAt !== was.leavesAt || is.readerId !== was.readerId);
      if (is && (!moved || Math.min(was.leavesAt, is.leavesAt) > until)) continue;
      if (!is && was.leavesAt > until) continue;
      const kind = is ? 'moved' : 'gone';
      changes.push([
        was.leavesAt,
        () =>
          this.#add(
            kind,
            task,
            this.#reader(this.#before, was),
            this.#bell(this.#before, was),
            is ? this.#bell(this.#after, is) : 'no bell'
          )
      ]);
    }
    for (const [key, is] of after) {
      if (before.has(key) || is.leavesAt > until) continue;
      const task = tasks.get(is.taskId)!;
      changes.push([
        is.leavesAt,
        () => this.#add('added', task, this.#reader(this.#after, is), 'no bell', this.#bell(this.#after, is))
      ]);
    }
    changes.sort((a, b) => a[0] - b[0]);
    for (const [, add] of changes) add();
  }

  view(days: number): EffectView {
    return { counts: this.#counts, lines: this.#lines, days };
  }

  #add(kind: EffectLine['kind'], task: TaskFacts, who: string | null, before: string, after: string): void {
    this.#counts[kind]++;
    if (this.#lines.filter((line) => line.kind === kind).length >= LISTED) return;
    const hidden = task.private && task.ownerId !== this.#viewer.personId;
    this.#lines.push({
      kind,
      taskId: task.id,
      task: hidden ? 'a private task' : task.name,
      who,
      before,
      after
    });
  }

  #zoneOf(look: Look, task: TaskFacts): Zone {
    return task.due?.zone ?? look.planner.dates.dateSource(task).zone;
  }

  #reader(look: Look, { readerId }: PlannedNotice): string | null {
    return look.facts.people.get(readerId)?.name ?? null;
  }

  #bell(look: Look, notice: PlannedNotice): string {
    const reader = look.facts.people.get(notice.readerId);
    const instead = notice.readerId === notice.recipientId ? '' : `, to ${reader?.name ?? ''}`;
    return `${this.#time(notice.leavesAt, reader?.zone ?? this.#viewer.zone)}${instead}`;
  }

  #time(at: InstantMs, zone: Zone): string {
    const { there, place } = twoTimes(at, zone, this.#viewer.zone, this.#now);
    return `${there} ${place}`;
  }
}

function workingDays(count: number): string {
  return `${count} working ${count === 1 ? 'day' : 'days'} overdue`;
}
