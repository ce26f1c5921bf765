import { CodedError } from '../../core/errors.ts';
import type { PersonFacts, TaskFacts } from '../../core/forecast/facts/facts.ts';
import { peopleAbove, toldAbove } from '../../core/ladder/above.ts';
import { isOpen } from '../../core/task/model.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import type { PromiseRecord } from '../store/promises.ts';
import type { Task } from '../store/tasks.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { deadlinesOf } from './deadlines.ts';

/** A date that was promised can be put off once: a third is no promise any more. */
const MOST_DATES = 2;
/** Somebody sees it so often without saying by when: a third is a way of not being told. */
const MOST_SEEN = 2;
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
   * Somebody has seen it and says by when it will be done. For later than a due date that is still ahead, or a deadline that is not met, it
   * waits for a yes from above its owner, where somebody stands there.
   * @param promised `YYYY-MM-DD`, kept until the end of that day where the date belongs; null until the end of their next working day
   * @returns whether it waits for a yes
   * @throws CodedError `task-finished`, `promise-past`, `promise-twice` or `seen-twice`
   */
  acknowledge(
    actor: Actor,
    task: Task,
    person: PersonFacts,
    promised: string | null
  ): Committed<{ asked: boolean }> {
    const now = this.#clock.now();
    const facts = this.#stores.tasks.factsOf(task.id)!;
    const { zone } = this.#source.planner.dates.dateSource(facts);
    const today = person.zone.dayOf(now);
    if (!isOpen(task.phase)) throw new CodedError('task-finished', { name: task.name });
    const day = promised === null ? null : parseDay(promised);
    if (day !== null && day < today) throw new CodedError('promise-past', {}, 'value');
    this.#checkOften(task, facts, person, day);
    const untilAt = day === null ? person.zone.endOfDay(nextWorkingDay(person, today)) : zone.endOfDay(day);
    const asked =
      day !== null && this.#isAfterDeadline(task, facts, day, now) && this.#needsYes(facts, person);
    const words = day === null ? 'seen' : `promised for ${shortDay(day, today)}`;
    const title = `“${task.name}” acknowledged: ${words}${asked ? ', which needs approval' : ''}`;
    return this.#committer.commit(actor, title, (writer) => {
      const { at } = writer.head;
      for (const before of this.#stores.promises.of(task.id)) {
        // Who says another date in time has not broken the first; what was asked before is asked no more.
        if (before.state === 'asked' || (before.state === 'open' && !asked))
          writer.update('promise', before.id, { state: before.state === 'asked' ? 'refused' : 'over' });
      }
      writer.insert('promise', {
        ...{ task_id: task.id, person_id: person.id, round: task.round, due: task.due?.date ?? null },
        ...{ made_at: at, promised: day === null ? null : formatDay(day), until_at: untilAt },
        state: asked ? 'asked' : 'open'
      });
      writer.update('task', task.id, { touched_at: at });
      return { asked };
    });
  }

  /**
   * Says yes or no to a promise past the deadline.
   * @throws CodedError `promise-answered` or `promise-not-yours`
   */
  answer(actor: Actor, promiseId: number, yes: boolean): Committed<void> {
    const promise = this.#stores.promises.byId(promiseId);
    const task = promise && this.#stores.tasks.byId(promise.taskId);
    const facts = promise && this.#stores.tasks.factsOf(promise.taskId);
    if (promise?.state !== 'asked' || !task || !facts) throw new CodedError('promise-answered');
    if (actor.personId === null || !this.mayAnswer(facts, actor.personId))
      throw new CodedError('promise-not-yours');
    const title = `“${task.name}”: the promise for ${promise.promised!} was ${yes ? 'accepted' : 'refused'}`;
    return this.#committer.commit(actor, title, (writer) => {
      const { at } = writer.head;
      const before = this.#stores.promises.openOf(task.id);
      if (yes && before) writer.update('promise', before.id, { state: 'over' });
      writer.update('promise', promiseId, {
        ...{ state: yes ? 'open' : 'refused', answered_by: actor.personId, answered_at: at }
      });
    });
  }

  /** Whether somebody stands above a task's owner, or looks after everybody's work. */
  mayAnswer(task: TaskFacts, personId: number): boolean {
    const { facts } = this.#source;
    if (facts.people.get(personId)?.coordinates) return true;
    const owner = task.ownerId === null ? undefined : facts.people.get(task.ownerId);
    return owner !== undefined && peopleAbove(owner, facts).some(({ id }) => id === personId);
  }

  /** A promise has come to its end: it was kept, or it is broken and rules hear of it; one that waited for a yes had none. */
  end(taskId: number): void {
    const ending = this.#stores.promises.endingOf(taskId);
    const task = this.#stores.tasks.byId(taskId);
    if (!ending || !task) return;
    const state = endOf(ending, task);
    const words = state === 'broken' ? 'a promise was not kept' : `a promise is ${state}`;
    this.#committer.commit({ personId: null, source: 'rule' }, `“${task.name}”: ${words}`, (writer) => {
      writer.update('promise', ending.id, { state });
    });
  }

  /** Whether a day is past a due date that is still ahead, or past a deadline that is not met. */
  #isAfterDeadline(task: Task, facts: TaskFacts, day: Day, now: number): boolean {
    const dueAt = this.#source.planner.dates.momentOf('due', facts);
    const due = task.due && dueAt !== null && now < dueAt ? [parseDay(task.due.date)] : [];
    const unmet = deadlinesOf(this.#stores, task).filter(({ met }) => !met);
    return [...due, ...unmet.map(({ moment }) => moment.day)].some((last) => day > last);
  }

  /** Who stands above says yes by saying it; where nobody stands there, nobody is asked. */
  #needsYes(task: TaskFacts, person: PersonFacts): boolean {
    const { facts } = this.#source;
    const owner = task.ownerId === null ? undefined : facts.people.get(task.ownerId);
    return owner !== undefined && toldAbove(owner, 1, facts).length > 0 && !this.mayAnswer(task, person.id);
  }

  /** A promised date is put off once. What is only seen stands still for a day each time: whoever is not above its owner says so twice. */
  #checkOften(task: Task, facts: TaskFacts, person: PersonFacts, day: Day | null): void {
    const said = this.#stores.promises
      .of(task.id)
      .filter(
        ({ promised, round, due, state }) =>
          (promised === null) === (day === null) &&
          state !== 'asked' &&
          state !== 'refused' &&
          round === task.round &&
          due === (task.due?.date ?? null)
      );
    if (day !== null && said.length >= MOST_DATES) throw new CodedError('promise-twice', {}, 'value');
    if (day === null && said.length >= MOST_SEEN && !this.mayAnswer(facts, person.id))
      throw new CodedError('seen-twice', {}, 'value');
  }
}

function endOf({ promised, state }: PromiseRecord, { phase }: Task): PromiseRecord['state'] {
  if (state === 'asked') return 'refused';
  if (!isOpen(phase)) return 'kept';
  return promised === null ? 'over' : 'broken';
}

/** What was said, in words, for whoever said it. */
export function promiseWords(name: string, promised: string | null, today: Day, asked: boolean): string {
  if (promised === null) return `“${name}” acknowledged.`;
  const said = `“${name}” is promised for ${shortDay(parseDay(promised), today)}`;
  return asked ? `${said}. It is later than the due date, so a manager must approve it.` : `${said}.`;
}

/** The first day after today on which somebody works. */
export function nextWorkingDay({ calendar }: PersonFacts, today: Day): Day {
  for (let day = today + 1; day < today + LOOKED_AT_DAYS; day++) if (calendar.days.isWorking(day)) return day;
  return today + 1;
}
