import { CodedError } from '../../core/errors.ts';
import type { PersonFacts } from '../../core/forecast/facts.ts';
import { isOpen } from '../../core/rule/model.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { PromiseRecord } from '../store/promises.ts';
import type { Task } from '../store/tasks.ts';
import type { Actor, Committed, Committer } from './commit.ts';

/** A date that was promised can be put off once: a third is no promise any more. */
const MOST_DATES = 2;
/** A working day is looked for so far; somebody who never works has until tomorrow. */
const LOOKED_AT_DAYS = 366;

/** Acknowledging work that is due or late, with or without a date by which it will be done; what becomes of that. */
export class Promises {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;

  constructor(stores: Stores, committer: Committer, source: FactsSource, clock: WorkspaceClock) {
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
    this.#clock = clock;
  }

  /**
   * Somebody has seen it and says by when it will be done.
   * @param promised `YYYY-MM-DD`, kept until the end of that day where the date belongs; null until the end of their next working day
   * @throws CodedError `task-finished`, `promise-past`, `promise-after-due` or `promise-twice`
   */
  acknowledge(actor: Actor, task: Task, person: PersonFacts, promised: string | null): Committed<void> {
    const now = this.#clock.now();
    const facts = this.#stores.tasks.factsOf(task.id)!;
    const { planner } = this.#source;
    const { zone } = planner.dateSource(facts);
    const today = person.zone.dayOf(now);
    if (!isOpen(task.phase)) throw new CodedError('task-finished', { name: task.name });
    const day = promised === null ? null : parseDay(promised);
    if (day !== null) this.#check(task, day, today, planner.momentOf('due', facts), now);
    const untilAt = day === null ? person.zone.endOfDay(nextWorkingDay(person, today)) : zone.endOfDay(day);
    const words = day === null ? 'seen' : `promised for ${shortDay(day, today)}`;
    return this.#committer.commit(actor, `“${task.name}” acknowledged: ${words}`, (writer) => {
      const { at } = writer.head;
      const before = this.#stores.promises.openOf(task.id);
      // Who says another date in time has not broken the first.
      if (before) writer.update('promise', before.id, { state: 'over' });
      writer.insert('promise', {
        ...{ task_id: task.id, person_id: person.id, round: task.round, due: task.due?.date ?? null },
        ...{ made_at: at, promised: day === null ? null : formatDay(day), until_at: untilAt, state: 'open' }
      });
      writer.update('task', task.id, { touched_at: at });
    });
  }

  /** A promise has come to its end: it was kept, or it is broken and rules hear of it. */
  end(taskId: number): void {
    const open = this.#stores.promises.openOf(taskId);
    const task = this.#stores.tasks.byId(taskId);
    if (!open || !task) return;
    const state = endOf(open, task);
    const words = state === 'broken' ? 'a promise was not kept' : `a promise is ${state}`;
    this.#committer.commit({ personId: null, source: 'rule' }, `“${task.name}”: ${words}`, (writer) => {
      writer.update('promise', open.id, { state });
    });
  }

  #check(task: Task, day: Day, today: Day, dueAt: number | null, now: number): void {
    if (day < today) throw new CodedError('promise-past', {}, 'value');
    // What is not due yet is given another due date, by whoever may; a promise does not move it.
    if (task.due && dueAt !== null && now < dueAt && day > parseDay(task.due.date))
      throw new CodedError('promise-after-due', { due: shortDay(parseDay(task.due.date), today) }, 'value');
    const dates = this.#stores.promises
      .of(task.id)
      .filter(
        ({ promised, round, due }) =>
          promised !== null && round === task.round && due === (task.due?.date ?? null)
      );
    if (dates.length >= MOST_DATES) throw new CodedError('promise-twice', {}, 'value');
  }
}

function endOf({ promised }: PromiseRecord, { phase }: Task): PromiseRecord['state'] {
  if (!isOpen(phase)) return 'kept';
  return promised === null ? 'over' : 'broken';
}

/** The first day after today on which somebody works. */
export function nextWorkingDay({ calendar }: PersonFacts, today: Day): Day {
  for (let day = today + 1; day < today + LOOKED_AT_DAYS; day++) if (calendar.days.isWorking(day)) return day;
  return today + 1;
}
