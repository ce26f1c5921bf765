import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import { isReachable } from '../../core/forecast/facts/facts.ts';
import type { SweepAct } from '../../core/sweep/model.ts';
import { readyAt } from '../../core/sweep/wait.ts';
import { CodedError } from '../../core/errors.ts';
import { formatDay } from '../../core/time/day.ts';
import type { SetAside } from '../../core/task/model.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Task } from '../store/tasks.ts';
import type { Parking } from '../task/parking.ts';
import { moveStatusSpan, type TaskService } from '../task/tasks.ts';

const GONE = 'not found';

/** Does to one task what a sweep does, inside a change that is under way. */
export class SweepActor {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #tasks: TaskService;
  readonly #parking: Parking;

  constructor(stores: Stores, source: FactsSource, tasks: TaskService, parking: Parking) {
    this.#stores = stores;
    this.#source = source;
    this.#tasks = tasks;
    this.#parking = parking;
  }

  /**
   * Does it to some tasks, in their order; what is only set aside all at once.
   * @param isOver asked after each: whether to leave the rest for another time
   * @returns those that it came to, each with why it is left out after all; null when it was done
   * @throws CodedError for what a person could not do either
   */
  do(
    writer: ChangeWriter,
    ids: readonly number[],
    act: SweepAct,
    runId: number,
    isOver: () => boolean
  ): Map<number, string | null> {
    switch (act.act) {
      case 'archive':
        return this.#setAside(writer, ids, 'archived');
      case 'purge':
        return this.#setAside(writer, ids, 'binned');
    }
    const ends = new Map<number, string | null>();
    for (const id of ids) {
      ends.set(id, this.#doOne(writer, id, act, runId));
      if (isOver()) break;
    }
    return ends;
  }

  #doOne(
    writer: ChangeWriter,
    id: number,
    act: Exclude<SweepAct, { act: 'archive' | 'purge' }>,
    runId: number
  ): string | null {
    // This is done to very many: a task itself is read only where more of it must be known.
    if (act.act === 'close') return this.#closeFinished(writer, id) ? null : GONE;
    const task = this.#stores.tasks.byId(id);
    if (!task) return GONE;
    switch (act.act) {
      case 'bring back':
        this.#parking.bringBack(writer, task);
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
    if (task.phase === 'finished') this.#closeFinished(writer, task.id);
    else this.#tasks.update(writer, task, { statusId: this.#closedId() });
  }

  /** From finished to closed nothing follows: what does was done when it was finished. */
  #closeFinished(writer: ChangeWriter, id: number): boolean {
    const closedId = this.#closedId();
    if (!writer.update('task', id, { status_id: closedId })) return false;
    moveStatusSpan(writer, this.#stores, id, closedId, writer.head.at);
    return true;
  }

  #setAside(writer: ChangeWriter, ids: readonly number[], how: SetAside): Map<number, string | null> {
    const moved = new Set(writer.setAside(ids, { set_aside: how, set_aside_at: writer.head.at }));
    return new Map(ids.map((id) => [id, moved.has(id) ? null : GONE]));
  }

  #closedId(): number {
    const closed = this.#stores.projects.statuses().find(({ phase }) => phase === 'closed');
    if (!closed) throw new CodedError('status-gone');
    return closed.id;
  }

  #reDate(writer: ChangeWriter, task: Task, to: 'today' | 'next working day'): string | null {
    const owner = this.#ownerOf(task);
    const { workspace } = this.#source.facts;
    const today = (owner?.zone ?? workspace.zone).dayOf(writer.head.at);
    const days = (owner?.calendar ?? workspace.calendar).days;
    const date = formatDay(to === 'today' ? today : days.offset(today, 1));
    if (task.due?.date === date) return 'already due on that day';
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
    return this.#stores.sweepQuestions.ask(question) ? null : 'already asked, no answer yet';
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
