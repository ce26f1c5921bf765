import type { Facts, TaskFacts } from '../../core/forecast/facts.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import { Planner, type PlannedNotice } from '../../core/forecast/planner.ts';
import { isOpen, type Phase } from '../../core/rule/model.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { InstantMs, Zone } from '../../core/time/zone.ts';
import { twoTimes } from '../../view/bells.ts';
import type { EffectLine, EffectView } from '../../view/effects.ts';
import { compileFacts, readFactsInput, type FactsInput } from '../engine/compile-facts.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
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
    const changed = compileFacts(change(readFactsInput(this.#stores)));
    const after = new Look(changed, this.#bells(changed, tasks.map(changeTask), now));
    const lines = new Lines(before, after, viewer, now);
    for (const task of tasks) if (isOpen(task.phase)) lines.compareTask(task);
    lines.compareBells(new Map(tasks.map((task) => [task.id, task])), now + WINDOW_DAYS * MS_PER_DAY);
    return lines.view(WINDOW_DAYS);
  }

  #bells(facts: Facts, tasks: readonly TaskFacts[], now: InstantMs): Map<string, PlannedNotice> {
    const rules = this.#source.liveRules().map((rule) => rule.facts);
    const until = now + (WINDOW_DAYS + BEYOND_DAYS) * MS_PER_DAY;
    const bells = new Map<string, PlannedNotice>();
    for (const notice of forecast(facts, rules, tasks, { now, from: now, until }).notices) {
      if (notice.unrung !== null) continue;
      bells.set([notice.ruleId, notice.leadId, notice.taskId, notice.recipientId].join('/'), notice);
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
  readonly #counts: EffectView['counts'] = { moved: 0, added: 0, gone: 0, due: 0, ages: 0 };
  readonly #lines: EffectLine[] = [];

  constructor(before: Look, after: Look, viewer: Viewer, now: InstantMs) {
    this.#before = before;
    this.#after = after;
    this.#viewer = viewer;
    this.#now = now;
  }

  compareTask(task: TaskFacts): void {
    const [was, is] = [this.#before.planner.momentOf('due', task), this.#after.planner.momentOf('due', task)];
    if (was === null || is === null) return;
    if (was !== is) {
      const [zoneBefore, zoneAfter] = [this.#zoneOf(this.#before, task), this.#zoneOf(this.#after, task)];
      this.#add('due', task, null, this.#time(was, zoneBefore), this.#time(is, zoneAfter));
    }
    if (this.#now < was && this.#now < is) return;
    const age = (look: Look, due: InstantMs) =>
      this.#now < due ? 'not overdue' : workingDays(look.planner.workingDaysOverdue(task, this.#now));
    const [ageBefore, ageAfter] = [age(this.#before, was), age(this.#after, is)];
    if (ageBefore !== ageAfter) this.#add('ages', task, null, ageBefore, ageAfter);
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
    return task.due?.zone ?? look.planner.dateSource(task).zone;
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
