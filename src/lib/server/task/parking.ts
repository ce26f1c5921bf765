import { isReachable, type PersonFacts } from '../../core/forecast/facts/facts.ts';
import { sweepMessage } from '../../core/sweep/message.ts';
import { parseDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import { queueWritten } from '../engine/plain-message.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Task } from '../store/tasks.ts';
import { backAt, backTo } from './back-from-parking.ts';
import type { Committer } from '../workspace/commit.ts';
import type { TaskActs } from './task-acts.ts';

/** Tasks that come back together in one change; more of the same moment follow in the next. */
const MOST_TOGETHER = 100;

/** What is parked comes back by itself: when, to whom, and how they are told. */
export class Parking {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #committer: Committer;
  readonly #acts: TaskActs;
  readonly #origin: string;

  constructor(stores: Stores, source: FactsSource, committer: Committer, acts: TaskActs, origin: string) {
    this.#stores = stores;
    this.#source = source;
    this.#committer = committer;
    this.#acts = acts;
    this.#origin = origin;
  }

  /**
   * Brings back what is due, and whatever else comes back at that moment to the same person, in one change; they hear of it in one message.
   * A moment that has moved since it was noted is noted anew.
   * @param now workspace clock
   */
  comeBack(taskId: number, now: number): void {
    const first = this.#stores.tasks.byId(taskId);
    const at = first && backAt(this.#source.facts, first);
    if (!first || at === null) return;
    if (at > now) return this.#stores.chores.set({ taskId, kind: 'review', at });
    const to = backTo(this.#source.facts, first);
    const others = this.#stores.chores
      .due(now, MOST_TOGETHER)
      .filter(({ kind, at: then, taskId: id }) => kind === 'review' && then === at && id !== taskId)
      .flatMap((chore) => this.#stores.tasks.byId(chore.taskId) ?? [])
      .filter((task) => backTo(this.#source.facts, task)?.id === to?.id);
    const tasks = [first, ...others];
    for (const { id } of others) this.#stores.chores.clear(id);
    const title =
      tasks.length === 1
        ? `“${first.name}” is no longer parked`
        : `${tasks.length} tasks are no longer parked`;
    this.#committer.commit({ personId: null, source: 'renewal' }, title, (writer) => {
      for (const task of tasks) this.bringBack(writer, task);
      if (to) this.tell(to, tasks, now);
    });
  }

  /** Brings a task back to whoever parked it, inside a change that is under way. @returns whose it is now */
  bringBack(writer: ChangeWriter, task: Task): PersonFacts | null {
    const to = backTo(this.#source.facts, task);
    this.#acts.bringBack(writer, task, to?.id ?? null);
    return to;
  }

  /** Says to somebody what has come back to them, inside the transaction under way. */
  tell(to: PersonFacts, tasks: readonly Task[], now: number): void {
    if (!isReachable(to)) return;
    const rows = tasks.map((task) => this.#row(task, to));
    const one = rows.length === 1;
    const subject = one ? `No longer parked: ${rows[0]!.name}` : `${rows.length} tasks are no longer parked`;
    const said = one
      ? ['This task was parked until now. It is yours, and in the list again.']
      : ['These tasks were parked until now. They are yours, and in the list again.'];
    const link = one ? rows[0]!.link : `${this.#origin}/tasks?owner=${to.id}`;
    const message = sweepMessage(subject, said, rows, { link, words: 'Decide what comes next' });
    const about = { of: 'back', key: [now, to.id, ...tasks.map(({ id }) => id)] };
    queueWritten(this.#stores, { reader: to, kind: 'assigned', now }, about, message);
  }

  #row(task: Task, reader: PersonFacts) {
    const hidden = task.private && task.formerOwnerId !== reader.id;
    const by =
      task.parkedBy === null ? null : task.parkedBy === reader.id ? 'you' : this.#nameOf(task.parkedBy);
    const until = task.reviewDate === null ? '' : `until ${shortDay(parseDay(task.reviewDate))}`;
    const note = [by === null ? '' : `parked by ${by}`, until].filter(Boolean).join(' ');
    return {
      name: hidden ? 'a private task' : task.name,
      note,
      link: `${this.#origin}/tasks/${task.id}`
    };
  }

  #nameOf(personId: number): string {
    return this.#source.facts.people.get(personId)?.name ?? 'a removed person';
  }
}
