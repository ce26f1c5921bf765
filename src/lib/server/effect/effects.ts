import { createHash } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import { forecast } from '../../core/forecast/forecast.ts';
import { isOpenWork, type Facts, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { compileFacts } from '../../core/forecast/facts/compile-facts.ts';
import type { ForecastHistory } from '../../core/forecast/simulate/model.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import type { FactsInput } from '../../core/forecast/facts/records.ts';
import type { Phase } from '../../core/task/model.ts';
import { groupBy } from '../../core/group-by.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { EffectView } from '../../view/effects.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { forecastHistory } from '../engine/history.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { Stores } from '../store/all.ts';
import { atOnceView } from './at-once.ts';
import { Lines, Look } from './effect-lines.ts';
import { isMoot } from '../sweep/sweep-questions.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** How far ahead bells are compared, and how much farther is looked for where they move to. */
export const EFFECT_DAYS = 60;
const BEYOND_DAYS = 30;
/** How far a try has come, about by the time that each takes: what was due is done, it was looked at, the act is done, rules too, looked at again. */
const PARTS = { settled: 0.05, seen: 0.25, done: 0.55, followed: 0.75, seenAgain: 0.95 };
/** While more tasks than this wait to be planned anew, after a holiday for one, nobody waits for all of them to look at a few. */
const MOST_STALE = 2_000;

/** What an act, or a change of people, calendars or settings would do, before it is done. */
export class EffectService {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #work: UnitOfWork;
  readonly #engine: Engine;
  #onPart: (part: number) => void = () => {};

  constructor(of: Pick<Workspace, 'work' | 'stores' | 'source' | 'clock' | 'engine'>) {
    const { work, stores, source, clock, engine } = of;
    this.#work = work;
    this.#engine = engine;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
  }

  /** Who hears how far a try has come, from 0 to 1. */
  attach(onPart: (part: number) => void): void {
    this.#onPart = onPart;
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
    const lines = new Lines(before, after, viewer, now, this.#ruleNames());
    for (const task of tasks) if (isOpenWork(task)) lines.compareTask(task);
    lines.compareBells(new Map(tasks.map((task) => [task.id, task])), now + EFFECT_DAYS * MS_PER_DAY);
    return lines.view(EFFECT_DAYS);
  }

  /**
   * What an act would do to some tasks, and what leaves at once because of it: it is done as it will be done, with everything that rules do then,
   * looked at, and taken back.
   * @param taskIds those whose bells are compared; those that it makes are looked at besides
   * @throws whatever keeps the act from being done
   */
  ofAct(taskIds: readonly number[], act: () => void, viewer: Viewer): EffectView {
    const effect = this.#tried(taskIds, act, viewer);
    return { ...effect, stamp: `${this.#stores.since.standing()} ${hashOf(effect)}` };
  }

  /**
   * Before an act is done that was looked at: whether it still would do what was said.
   * @param stamp of what was said; null where nobody had looked
   * @throws CodedError `preview-stale`, or whatever keeps the act from being done
   */
  check(stamp: string | null, taskIds: readonly number[], act: () => void, viewer: Viewer): void {
    if (stamp === null || this.isFresh(stamp)) return;
    if (!isSameEffect(stamp, this.ofAct(taskIds, act, viewer).stamp)) throw new CodedError('preview-stale');
  }

  /** Whether nothing has happened since something was said: nothing has to be worked out again. */
  isFresh(stamp: string): boolean {
    return stamp.split(' ')[0] === this.#stores.since.standing();
  }

  #tried(taskIds: readonly number[], act: () => void, viewer: Viewer): EffectView {
    const now = this.#clock.now();
    if (this.#stores.plan.staleCount() > MOST_STALE) throw new CodedError('preview-busy');
    return this.#work.tryOut(() => {
      // What is due anyway is not because of it.
      this.#engine.settle();
      this.#onPart(PARTS.settled);
      const mark = this.#stores.since.mark();
      const before = this.#stores.tasks.factsAmong(taskIds);
      const was = this.#look(before, now);
      const stood = this.#standing(taskIds);
      this.#onPart(PARTS.seen);
      act();
      this.#onPart(PARTS.done);
      // What concerns every task, as where a project stands does, is looked at for these alone.
      this.#stores.plan.onlyOf(taskIds);
      this.#engine.settle();
      this.#onPart(PARTS.followed);
      const ids = [...taskIds, ...this.#stores.since.made(mark)];
      const after = this.#stores.tasks.factsAmong(ids);
      const stands = this.#standing(ids);
      const lines = new Lines(was, this.#look(after, now), viewer, now, this.#ruleNames());
      this.#onPart(PARTS.seenAgain);
      const byId = new Map([...before, ...after].map((task) => [task.id, task]));
      for (const task of before) lines.compareTask(task, byId.get(task.id));
      for (const [id, task] of byId)
        lines.compareWaiting(task, stood.notices.get(id) ?? [], stands.notices.get(id) ?? []);
      const questions = [...stood.questions]
        .filter(([id]) => !stands.questions.has(id))
        .map(([, text]) => text);
      lines.compareBells(byId, now + EFFECT_DAYS * MS_PER_DAY);
      return lines.view(
        EFFECT_DAYS,
        atOnceView(
          { stores: this.#stores, source: this.#source, clock: this.#clock },
          mark,
          questions,
          viewer
        )
      );
    });
  }

  #ruleNames(): ReadonlyMap<number, string> {
    return new Map(this.#stores.rules.all().map(({ id, name }) => [id, name]));
  }

  #look(tasks: readonly TaskFacts[], now: InstantMs): Look {
    const { facts, planner } = this.#source;
    return new Look(facts, this.#bells(facts, tasks, now, planner));
  }

  /** What waits for some tasks, and what is asked about them. */
  #standing(taskIds: readonly number[]): {
    notices: ReadonlyMap<number, NoticeRecord[]>;
    questions: ReadonlyMap<string, string>;
  } {
    const { notices, questions, sweepQuestions, tasks } = this.#stores;
    const asked = new Map(questions.openAmong(taskIds).map(({ id, text }) => [`rule ${id}`, text]));
    for (const question of sweepQuestions.openAmong(taskIds)) {
      const task = tasks.byId(question.taskId);
      if (task && !isMoot(question, task)) asked.set(`sweep ${question.id}`, `Still needed? ${task.name}`);
    }
    return { notices: groupBy(notices.waitingAmong(taskIds), ({ taskId }) => taskId), questions: asked };
  }

  /** @param sent asks whether a ring has left already; null takes none of them into account */
  #bells(
    facts: Facts,
    tasks: readonly TaskFacts[],
    now: InstantMs,
    sent: Planner | null = null
  ): Map<string, PlannedNotice> {
    const rules = this.#source.liveRules().map((rule) => rule.facts);
    const known = new Set(tasks.map(({ id }) => id));
    const until = now + (EFFECT_DAYS + BEYOND_DAYS) * MS_PER_DAY;
    const history: ForecastHistory = sent
      ? {
          ...forecastHistory(
            { stores: this.#stores, source: this.#source, planner: sent, now },
            undefined,
            this.#stores.tellings.tasksRung([...known])
          ),
          sentToday: () => 0
        }
      : {};
    const setOff = new Set(
      rules.flatMap(({ id, leads }) =>
        leads.flatMap(({ anchor, lead }) => (anchor === null ? [`${id}/${lead.id}`] : []))
      )
    );
    const bells = new Map<string, PlannedNotice>();
    for (const notice of forecast(facts, rules, tasks, { now, from: now, until }, history).notices) {
      // What a rule would make is not there yet, and is another one after the change.
      if (notice.unrung !== null || !known.has(notice.taskId)) continue;
      const { ruleId, leadId, ordinal, stepId, taskId, recipientId, ringAt } = notice;
      // Each ring of a schedule is one of its own, and is known by its instant; one that counts from a date moves with it.
      const which = setOff.has(`${ruleId}/${leadId}`) ? `at ${ringAt}` : ordinal;
      bells.set(`${ruleId}/${leadId}/${which}/${stepId}/${taskId}/${recipientId}`, notice);
    }
    return bells;
  }
}

/** Whether two stamps are of the same effect, whenever it was said. */
export function isSameEffect(stamp: string, other: string | null): boolean {
  return stamp.split(' ')[1] === other?.split(' ')[1];
}

/** What was said of an act, in short. */
function hashOf({ counts, lines, atOnce }: EffectView): string {
  return createHash('sha256')
    .update(JSON.stringify([counts, lines, atOnce]))
    .digest('hex')
    .slice(0, 24);
}
