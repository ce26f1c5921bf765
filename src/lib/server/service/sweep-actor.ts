import type { PersonFacts } from '../../core/forecast/facts.ts';
import { isReachable } from '../../core/forecast/facts.ts';
import type { SweepAct } from '../../core/sweep/model.ts';
import { readyAt } from '../../core/sweep/wait.ts';
import { CodedError } from '../../core/errors.ts';
import { formatDay } from '../../core/time/day.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/changes.ts';
import type { Task } from '../store/tasks.ts';
import type { TaskActs } from './task-acts.ts';
import { moveStatusSpan, type TaskService } from './tasks.ts';

/** Does to one task what a sweep does, inside a change that is under way. */
export class SweepActor {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #tasks: TaskService;
  readonly #acts: TaskActs;

  constructor(stores: Stores, source: FactsSource, tasks: TaskService, acts: TaskActs) {
    this.#stores = stores;
    this.#source = source;
    this.#tasks = tasks;
    this.#acts = acts;
  }

  /**
   * @returns why it is left out after all; null when it was done
   * @throws CodedError for what a person could not do either
   */
  do(writer: ChangeWriter, task: Task, act: SweepAct, runId: number): string | null {
    switch (act.act) {
      case 'close':
        this.close(writer, task);
        return null;
      case 'archive':
        this.#acts.setAside(writer, task, 'archived');
        return null;
      case 'purge':
        this.#acts.setAside(writer, task, 'binned');
        return null;
      case 'bring back':
        this.#acts.bringBack(writer, task);
        return null;
      case 're-date':
        return this.#reDate(writer, task, act.to);
      case 'still needed':
        return this.#ask(writer, task, act, runId);
      case 'ask a date':
        return this.#whoIsAsked(task) ? null : 'nobody to ask';
      case 'report slips':
        return null;
    }
  }

  /** Closes what is finished, or what is still open, as it is. @throws CodedError `status-gone` or `open-subtasks` */
  close(writer: ChangeWriter, task: Task): void {
    const closed = this.#stores.projects.statuses().find(({ phase }) => phase === 'closed');
    if (!closed) throw new CodedError('status-gone');
    if (task.phase !== 'finished') {
      this.#tasks.update(writer, task, { statusId: closed.id });
      return;
    }
    // From finished to closed nothing follows: what does was done when it was finished.
    writer.update('task', task.id, { status_id: closed.id });
    moveStatusSpan(writer, this.#stores, task.id, closed.id, writer.head.at);
  }

  #reDate(writer: ChangeWriter, task: Task, to: 'today' | 'next working day'): string | null {
    const owner = this.#ownerOf(task);
    const { workspace } = this.#source.facts;
    const today = (owner?.zone ?? workspace.zone).dayOf(writer.head.at);
    const days = (owner?.calendar ?? workspace.calendar).days;
    const date = formatDay(to === 'today' ? today : days.offset(today, 1));
    if (task.due?.date === date) return 'due then already';
    this.#tasks.update(writer, task, { dueDate: date });
    return null;
  }

  #ask(
    writer: ChangeWriter,
    task: Task,
    { answerDays, otherwise }: Extract<SweepAct, { act: 'still needed' }>,
    runId: number
  ): string | null {
    const asked = this.#whoIsAsked(task);
    if (!asked) return 'nobody to ask';
    const { at } = writer.head;
    const untilAt = readyAt(at, { n: answerDays, unit: 'workday' }, asked.zone, asked.calendar);
    const question = { runId, taskId: task.id, personId: asked.id, askedAt: at, untilAt, otherwise };
    return this.#stores.sweepQuestions.ask(question) ? null : 'asked already, and not answered yet';
  }

  /** The owner, where messages reach them. */
  #whoIsAsked(task: Task): PersonFacts | null {
    const owner = this.#ownerOf(task);
    return owner && isReachable(owner) ? owner : null;
  }

  #ownerOf({ ownerId }: Task): PersonFacts | null {
    return ownerId === null ? null : (this.#source.facts.people.get(ownerId) ?? null);
  }
}
