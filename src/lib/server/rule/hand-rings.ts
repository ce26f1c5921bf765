import { many } from '../../core/many.ts';
import { ifComputable } from '../../core/if-computable.ts';
import { randomBytes } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { actWords } from '../../core/rule/words/act-words.ts';
import { allSteps } from '../../core/rule/step-model.ts';
import type { HandPlace } from '../../core/rule/lead-model.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource, LiveRule } from '../engine/facts-source.ts';
import { recordNames } from '../engine/names.ts';
import type { Stores } from '../store/all.ts';
import type { RushAnswer } from '../store/rushes.ts';
import type { Stages } from '../store/runs.ts';
import type { EffectView } from '../../view/effects.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { EffectService } from '../effect/effects.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** A rule that somebody can ring for a task. */
export interface HandRule {
  ruleId: number;
  leadId: string;
  caption: string;
  /** What is said before many tasks are rung. */
  confirm: string;
  places: readonly HandPlace[];
}

/** What ringing a rule for many tasks would do, before it is done. */
export interface HandOverPreview {
  chosen: number;
  /** Those that the rule looks at. */
  tasks: number;
  /** What the rule does to each of them. */
  acts: string[];
  /** What comes of it, at once and later. */
  effect: EffectView;
  /** The first of those that the rule looks at. */
  names: string[];
}

/** The most tasks that are rung by one press. */
const MOST = 10_000;
const NAMED = 200;

/** Rings rules by hand, and answers what they ask. */
export class HandRings {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #engine: Engine;
  readonly #committer: Committer;
  readonly #effects: EffectService;

  constructor(
    work: UnitOfWork,
    stores: Stores,
    source: FactsSource,
    clock: WorkspaceClock,
    engine: Engine,
    committer: Committer,
    effects: EffectService
  ) {
    this.#effects = effects;
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#engine = engine;
    this.#committer = committer;
  }

  /** Rules that are on and have a button, whatever task they are for. */
  buttons(): HandRule[] {
    return this.#source.liveRules().flatMap(({ facts }) =>
      facts.leads.flatMap(({ lead }) =>
        lead.kind === 'by hand'
          ? [
              {
                ...{ ruleId: facts.id, leadId: lead.id, caption: lead.caption || facts.name },
                ...{ confirm: lead.confirm ?? '', places: lead.places ?? ['task'] }
              }
            ]
          : []
      )
    );
  }

  /** Buttons of rules that look at a task. */
  buttonsFor(task: TaskFacts): HandRule[] {
    const now = this.#clock.now();
    return this.buttons().filter(({ ruleId, places }) => {
      if (!places.includes('task')) return false;
      const rule = this.#source.live(ruleId)!.facts;
      return ifComputable(() => this.#source.planner.watches(rule, task, now), false);
    });
  }

  /**
   * What ringing a rule for many tasks would do: only what it looks at is rung, open work unless it says otherwise.
   * @throws CodedError `rule-not-by-hand`, `bulk-nothing` or `bulk-too-many`
   */
  previewOver(actor: Actor, ruleId: number, taskIds: readonly number[], viewer: Viewer): HandOverPreview {
    const { rule } = this.#need(ruleId);
    const found = this.#over(ruleId, taskIds);
    const ids = found.map(({ id }) => id);
    // Another person's private task is looked at by no rule, so each of these has a name.
    const names = found.slice(0, NAMED).map(({ name }) => name);
    const version = this.#stores.rules.version(rule.versionId)!;
    const called = recordNames(this.#stores);
    const acts = allSteps(version.definition.steps).flatMap((step) =>
      step.kind === 'do' ? step.acts.map((act) => actWords(act, called)) : []
    );
    const ring = () => void (ids.length > 0 && this.ringOver(actor, ruleId, ids));
    const effect = this.#effects.ofAct(ids, ring, viewer);
    return { chosen: taskIds.length, tasks: ids.length, names, acts, effect };
  }

  /**
   * Rings it for them, as one recorded act with one undo.
   * @param looked the stamp of its preview, and who looked
   * @throws as `previewOver`, and CodedError `preview-stale`
   */
  ringOver(
    actor: Actor,
    ruleId: number,
    taskIds: readonly number[],
    looked: { stamp: string | null; viewer: Viewer } | null = null
  ): Committed<Stages> {
    const { rule, lead } = this.#need(ruleId);
    const found = this.#over(ruleId, taskIds);
    if (found.length === 0) throw new CodedError('bulk-nothing');
    const ids = found.map(({ id }) => id);
    if (looked)
      this.#effects.check(looked.stamp, ids, () => void this.ringOver(actor, ruleId, ids), looked.viewer);
    const title = `${this.#caption(rule)}: ${many(found.length, 'task')}`;
    return this.#commit(actor, title, rule, lead, found, true);
  }

  /** Rings as one recorded change, so that whatever comes of it can be taken back. */
  #commit(
    actor: Actor,
    title: string,
    rule: LiveRule,
    lead: CompiledLead,
    tasks: readonly TaskFacts[],
    asks: boolean
  ): Committed<Stages> {
    const made = this.#committer.commit(actor, title, ({ id: setOffBy }) => {
      const now = this.#clock.now();
      const by = { actorId: actor.personId, setOffBy };
      return this.#engine.rings.byHand({ rule, lead, tasks, at: now, now, value: newToken(), by, asks });
    });
    this.#engine.wake();
    return { changeId: made.changeId, result: this.#stores.runs.byId(made.result)!.stages! };
  }

  /** Those of some tasks that a rule looks at. */
  #over(ruleId: number, taskIds: readonly number[]): TaskFacts[] {
    if (taskIds.length === 0) throw new CodedError('bulk-nothing');
    if (taskIds.length > MOST) throw new CodedError('bulk-too-many', { most: MOST });
    const { rule } = this.#need(ruleId);
    const now = this.#clock.now();
    return this.#tasks(taskIds).filter((task) =>
      ifComputable(() => this.#source.planner.watches(rule.facts, task, now), false)
    );
  }

  /**
   * Rings a rule for tasks of one's choice, or for everything that it watches. Its scheduled rings stay as they are.
   * @returns what it came to
   */
  ring(actor: Actor, ruleId: number, taskIds: readonly number[] | null): Committed<Stages> {
    const { rule, lead } = this.#need(ruleId);
    const tasks = this.#tasks(taskIds);
    const of = taskIds?.length === 1 && tasks[0] ? ` for “${tasks[0].name}”` : '';
    return this.#commit(actor, `${this.#caption(rule)}${of}`, rule, lead, tasks, taskIds === null);
  }

  /** Rings it for a task on whose page it has a button. @throws CodedError `rule-not-by-hand` */
  ringOn(actor: Actor, ruleId: number, taskId: number): Committed<Stages> {
    const facts = this.#stores.tasks.factsOf(taskId);
    if (!facts || !this.buttonsFor(facts).some((button) => button.ruleId === ruleId))
      throw new CodedError('rule-not-by-hand');
    return this.ring(actor, ruleId, [taskId]);
  }

  #caption({ facts: { id, name } }: LiveRule): string {
    return this.buttons().find(({ ruleId }) => ruleId === id)?.caption ?? name;
  }

  /**
   * Answers what a rule asks before it acts; whoever is asked, or a coordinator.
   * @throws CodedError `question-answered`, `question-over` or `question-not-yours`
   */
  answer(actor: Actor, coordinates: boolean, questionId: number, answer: 'yes' | 'no' | 'change'): void {
    const { questions, runs } = this.#stores;
    const question = questions.byId(questionId);
    if (!question || question.answer !== null) throw new CodedError('question-answered');
    if (runs.byId(question.runId)?.state !== 'asking') throw new CodedError('question-over');
    if (!coordinates && question.personId !== actor.personId) throw new CodedError('question-not-yours');
    const now = this.#clock.now();
    this.#work.run(() => {
      if (!questions.answer(questionId, answer, now, actor.personId))
        throw new CodedError('question-answered');
      questions.hurry(question.runId, now);
      const data = { questionId, answer, actorId: actor.personId, taskId: question.taskId };
      this.#stores.journal.add(now, this.#clock.machine.now(), 'answered', data);
    });
    this.#engine.wake();
  }

  /**
   * Says what becomes of messages that were stopped in a rush.
   * @throws CodedError `rush-answered`
   */
  answerRush(actor: Actor, rushId: number, answer: RushAnswer): void {
    const now = this.#clock.now();
    const rush = this.#stores.rushes.openById(rushId);
    if (!rush) throw new CodedError('rush-answered');
    this.#work.run(() => {
      this.#stores.rushes.answer(rushId, answer, now, actor.personId);
      if (answer !== 'do not ring') this.#engine.rush.allow(rush.ruleId);
      const data = { rushId, ruleId: rush.ruleId, answer, actorId: actor.personId };
      this.#stores.journal.add(now, this.#clock.machine.now(), 'rush answered', data);
    });
    this.#engine.wake();
  }

  #need(ruleId: number): { rule: LiveRule; lead: CompiledLead } {
    const rule = this.#source.live(ruleId);
    const lead = rule?.facts.leads.find(({ lead }) => lead.kind === 'by hand') ?? rule?.facts.leads[0];
    if (!rule || !lead) throw new CodedError('rule-not-by-hand');
    return { rule, lead };
  }

  #tasks(taskIds: readonly number[] | null): TaskFacts[] {
    return taskIds === null
      ? this.#stores.tasks.facts()
      : taskIds.flatMap((id) => this.#stores.tasks.factsOf(id) ?? []);
  }
}

/** By what one press is known. */
function newToken(): string {
  return `by hand ${randomBytes(6).toString('hex')}`;
}
