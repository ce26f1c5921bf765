import { CodedError } from '../../core/errors.ts';
import { isOpen } from '../../core/task/model.ts';
import type { Unanswered } from '../../core/sweep/model.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { SweepQuestion } from '../store/sweep-questions.ts';
import type { Task } from '../store/tasks.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { SweepActor } from './sweep-actor.ts';
import type { TaskActs } from '../task/task-acts.ts';

/** Whether tasks are still needed: what their owners say, and what is done when they say nothing. */
export class SweepQuestions {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #actor: SweepActor;
  readonly #acts: TaskActs;

  constructor(
    { work, stores }: { work: UnitOfWork; stores: Stores },
    committer: Committer,
    actor: SweepActor,
    acts: TaskActs
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#committer = committer;
    this.#actor = actor;
    this.#acts = acts;
  }

  nextAt(): number | null {
    return this.#stores.sweepQuestions.nextAt();
  }

  /** What waits for somebody's answer: what they have worked on since is not asked any more. */
  openFor(personId: number): { question: SweepQuestion; task: Task }[] {
    return this.#stores.sweepQuestions.openFor(personId).flatMap((question) => {
      const task = this.#stores.tasks.byId(question.taskId);
      return task && !isMoot(question, task) ? [{ question, task }] : [];
    });
  }

  /**
   * What the owner says; a coordinator may say it for them.
   * @throws CodedError `sweep-answered`, `question-not-yours`, `open-subtasks`
   */
  answer(actor: Actor, coordinates: boolean, id: number, answer: Unanswered): Committed<string> {
    const { question, task } = this.#need(id);
    if (!coordinates && question.personId !== actor.personId) throw new CodedError('question-not-yours');
    const words = { keep: 'kept', park: 'parked', close: 'closed' }[answer];
    const { changeId } = this.#committer.commit(actor, `“${task.name}” ${words}: still needed?`, (writer) => {
      if (!this.#stores.sweepQuestions.answer(id, answer, writer.head.at, actor.personId))
        throw new CodedError('sweep-answered');
      if (answer === 'keep') writer.update('task', task.id, { touched_at: writer.head.at });
      else this.#do(writer, task, answer);
    });
    return { changeId, result: `“${task.name}” is ${words}.` };
  }

  /** Ends the first question whose time has come to its end without an answer. */
  endOne(now: number): void {
    const [question] = this.#stores.sweepQuestions.due(now, 1);
    if (!question) return;
    const task = this.#stores.tasks.byId(question.taskId);
    const close = (answer: 'moot' | 'none') =>
      this.#stores.sweepQuestions.answer(question.id, answer, now, null);
    if (!task || isMoot(question, task) || question.otherwise === 'keep') {
      this.#work.run(() => close(!task || isMoot(question, task) ? 'moot' : 'none'));
      return;
    }
    const { otherwise } = question;
    const words = otherwise === 'park' ? 'parked' : 'closed';
    try {
      this.#committer.commit(
        { personId: null, source: 'sweep' },
        `“${task.name}” ${words}: no answer to “still needed?”`,
        (writer) => {
          close('none');
          // What comes of a run is taken back with it.
          this.#stores.sweepRuns.addChunk(question.runId, writer.id);
          this.#do(writer, task, otherwise);
        }
      );
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      // It cannot be closed as it is, with subtasks open: then it stays, and may be asked of again.
      this.#work.run(() => close('moot'));
    }
  }

  #do(writer: ChangeWriter, task: Task, answer: 'park' | 'close'): void {
    if (answer === 'park') this.#acts.setAside(writer, task, 'parked');
    else this.#actor.close(writer, task);
  }

  #need(id: number): { question: SweepQuestion; task: Task } {
    const question = this.#stores.sweepQuestions.byId(id);
    const task = question && this.#stores.tasks.byId(question.taskId);
    if (!question || !task || question.answer !== null || isMoot(question, task))
      throw new CodedError('sweep-answered');
    return { question, task };
  }
}

/** Somebody has worked on it since, it is finished, set aside or another's: nobody need answer. */
export function isMoot(
  { askedAt, personId }: SweepQuestion,
  { touchedAt, phase, setAside, ownerId }: Task
): boolean {
  return touchedAt >= askedAt || !isOpen(phase) || setAside !== null || ownerId !== personId;
}
