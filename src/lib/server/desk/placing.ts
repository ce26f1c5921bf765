import { CodedError } from '../../core/errors.ts';
import { many } from '../../core/many.ts';
import { planForDay, planForSpan, type Plan } from '../../core/desk/plan.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { daysWords, shortDay } from '../../core/time/format.ts';
import { sightOf } from '../auth/sight.ts';
import type { Row } from '../db/row.ts';
import { isMachineFault } from '../db/machine-fault.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { TaskActs } from '../task/task-acts.ts';
import type { TaskService } from '../task/tasks.ts';
import { deskAmong, type Desk, type DeskEntry, type DeskServices } from './desk-of.ts';
import { giverOf, type Giver } from './given.ts';
import { NO_PLAN } from './placed-marks.ts';
import type { PlaceInput } from './schema.ts';

/** What came of placing: in words, for whoever did it. */
export interface Placed {
  words: string;
}

const LOOK_AGAIN_MS = 600_000;

/** What people do with the tasks on their own Desk. */
export class PlacingService {
  readonly #app: DeskServices & { work: UnitOfWork };
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #acts: TaskActs;

  constructor(
    app: DeskServices & { work: UnitOfWork },
    committer: Committer,
    { tasks, taskActs }: { tasks: TaskService; taskActs: TaskActs }
  ) {
    this.#app = app;
    this.#stores = app.stores;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#acts = taskActs;
  }

  /**
   * Places tasks of one's own Desk. Where the day is not after the due date it is a planned day, of this person alone; a new due date is written
   * only for tasks that are late then, or without a date, and only where one was given.
   * @throws CodedError `desk-not-there` where one is not on it any more, `desk-needs-due` where one would be late and no new date was given,
   * `desk-span-over`, `desk-day-past`
   */
  place(actor: Actor, input: PlaceInput): Committed<Placed> {
    const desk = deskAmong(this.#app, actor.personId!, input.taskIds);
    const entries = this.#all(desk, input.taskIds);
    const plan = planOf(input, desk);
    const until = firstDayOf(plan, desk);
    const dated = entries.filter((entry) => this.#takesDue(entry, until, input));
    const newDue = dated.length === 0 ? null : this.#newDue(input, plan, desk);
    const title = `${namesOf(entries)} placed: ${whenWords(plan, desk.today)}`;
    return this.#committer.commit(actor, title, (writer) => {
      if (newDue !== null) this.#redate(writer, dated, newDue);
      for (const entry of entries)
        this.#write(writer, desk, entry, newDue !== null && dated.includes(entry) ? null : plan);
      return { words: placedWords(entries, dated, plan, newDue, desk.today) };
    });
  }

  /** Those of some tasks that would get a new due date. @throws as `place` */
  redated(actor: Actor, input: PlaceInput): number[] {
    const desk = deskAmong(this.#app, actor.personId!, input.taskIds);
    const plan = planOf(input, desk);
    const until = firstDayOf(plan, desk);
    return this.#all(desk, input.taskIds)
      .filter((entry) => this.#takesDue(entry, until, input))
      .map(({ row }) => row.id);
  }

  /** Somebody looks at their own Desk. It is noted every ten minutes at most: whoever only reads writes little. */
  look(personId: number): void {
    const now = this.#app.clock.now();
    const last = this.#stores.deskLooks.lastOf(personId);
    if (last !== null && now - last < LOOK_AGAIN_MS) return;
    // Reading goes on while a thread of ours writes, and where the disk is full: the next look is noted.
    if (this.#app.work.isLent) return;
    try {
      this.#app.work.run(() => this.#stores.deskLooks.look(personId, now));
      this.#forgetDays(personId, last, now);
    } catch (failure) {
      if (!isMachineFault(failure)) throw failure;
    }
  }

  /** Rules may ask for how many working days somebody has not looked: another day makes another answer. */
  #forgetDays(personId: number, last: number | null, now: number): void {
    const { source } = this.#app;
    const zone = source.facts.people.get(personId)?.zone;
    if (!zone || (last !== null && zone.dayOf(last) === zone.dayOf(now))) return;
    source.forget(this.#stores.placements.desk(personId).map(({ id }) => id));
  }

  /** Puts tasks of a day into one's own order. @param taskIds in that order */
  order(actor: Actor, taskIds: readonly number[]): Committed<void> {
    const desk = deskAmong(this.#app, actor.personId!, taskIds);
    const entries = this.#all(desk, taskIds);
    return this.#committer.commit(actor, 'Tasks of a day put in order', (writer) => {
      entries.forEach(({ row }, position) => {
        const mark = this.#stores.placements.of(row.id, desk.person.id);
        if (mark) writer.update('placement', mark.id, { position });
      });
    });
  }

  /**
   * Gives a task back to whoever gave it, with a word. Where nobody is there any more it is without an owner, or stays with its other owners.
   * @throws CodedError `desk-not-there`
   */
  giveBack(actor: Actor, taskId: number, word: string): Committed<Giver> {
    const personId = actor.personId!;
    const desk = deskAmong(this.#app, personId, [taskId]);
    const [entry] = this.#all(desk, [taskId]);
    const giver = giverOf(this.#app, entry!.row, personId);
    const task = this.#stores.tasks.byId(taskId)!;
    const title = `“${task.name}” given back${giver.to === null ? '' : ` to ${giver.to.name}`}`;
    return this.#committer.commit(actor, title, (writer) => {
      if (word !== '')
        writer.insert('comment', { task_id: taskId, person_id: personId, at: writer.head.at, text: word });
      const others = this.#stores.tasks.otherOwnersOf(taskId).filter((id) => id !== personId);
      const led = task.ownerId === personId;
      const ownerId = led ? (giver.to?.id ?? others[0] ?? null) : task.ownerId;
      this.#tasks.update(writer, task, {
        ownerId,
        otherOwnerIds: others.filter((id) => id !== ownerId),
        private: task.private && ownerId === personId
      });
      return giver;
    });
  }

  /** Parks a task of one's own until a date. @throws CodedError `desk-not-there` or `park-past` */
  park(actor: Actor, taskId: number, reviewDate: string | null): Committed<void> {
    this.#all(deskAmong(this.#app, actor.personId!, [taskId]), [taskId]);
    return this.#acts.park(actor, taskId, reviewDate);
  }

  /** All of them, as they stand. @throws CodedError `desk-not-there` */
  #all(desk: Desk, taskIds: readonly number[]): DeskEntry[] {
    const byId = new Map(desk.entries.map((entry) => [entry.row.id, entry]));
    return taskIds.map((id) => {
      const entry = byId.get(id);
      if (!entry) throw new CodedError('desk-not-there', { name: this.#nameOf(id, desk.person.id) });
      return entry;
    });
  }

  /** What it is called to somebody who has it no more: nothing is told of what they do not see. */
  #nameOf(id: number, personId: number): string {
    const { tasks, people } = this.#stores;
    const person = people.byId(personId);
    const isSeen = person !== null && tasks.seen([id], sightOf(person, this.#stores)).has(id);
    return isSeen ? `“${tasks.byId(id)!.name}”` : 'A task';
  }

  /** Whether a task gets a new due date: it would be done after its own, or has none and the day is to be its due date. */
  #takesDue({ row, task }: DeskEntry, until: Day | null, { keepDue, asDue, newDue }: PlaceInput): boolean {
    if (until === null) return false;
    if (task.due === null) return asDue;
    if (until <= task.due || keepDue) return false;
    if (newDue === null) throw new CodedError('desk-needs-due', { name: row.name });
    return true;
  }

  #newDue({ newDue }: PlaceInput, plan: Plan | null, { today }: Desk): Day {
    if (newDue === null) return plan?.kind === 'days' ? (plan.last ?? plan.first) : today;
    const day = parseDay(newDue);
    if (day < today) throw new CodedError('desk-day-past', { day: shortDay(day, today) }, 'newDue');
    return day;
  }

  #redate(writer: ChangeWriter, entries: readonly DeskEntry[], due: Day): void {
    for (const { row } of entries) {
      const task = this.#stores.tasks.byId(row.id)!;
      const startsAfter = task.start !== null && parseDay(task.start.date) > due;
      this.#tasks.update(writer, task, {
        dueDate: formatDay(due),
        ...(startsAfter ? { startDate: null, startTime: null } : {})
      });
    }
  }

  #write(writer: ChangeWriter, { person }: Desk, { row, task }: DeskEntry, plan: Plan | null): void {
    // What is parked is nobody's: it is taken on, or left.
    if (task.state === 'parked') this.#acts.bringBack(writer, this.#stores.tasks.byId(row.id)!, person.id);
    const columns = planColumns(plan);
    const mark = this.#stores.placements.of(row.id, person.id);
    if (mark) writer.update('placement', mark.id, { ...columns, position: null });
    else
      writer.insert('placement', {
        ...{ task_id: row.id, person_id: person.id, placed_at: writer.head.at },
        ...columns
      });
  }
}

function planOf({ to, day }: PlaceInput, { today, wall }: Desk): Plan | null {
  if (to === 'leave') return null;
  if (to === 'today') return { kind: 'today' };
  if (to === 'day') {
    const chosen = planForDay(parseDay(day!), today);
    return parseDay(day!) === today ? { kind: 'today' } : chosen;
  }
  return planForSpan(to, today, wall);
}

/** The first day on which it is done by a plan; null where its own dates decide. */
function firstDayOf(plan: Plan | null, { today }: Desk): Day | null {
  if (plan === null) return null;
  return plan.kind === 'today' ? today : plan.first;
}

function planColumns(plan: Plan | null): Row {
  if (plan === null) return NO_PLAN;
  if (plan.kind === 'today') return { ...NO_PLAN, plan: 'today' };
  const { first, last } = plan;
  return { plan: 'days', plan_first: formatDay(first), plan_last: last === null ? null : formatDay(last) };
}

function namesOf(entries: readonly DeskEntry[]): string {
  return entries.length === 1 ? `“${entries[0]!.row.name}”` : many(entries.length, 'task');
}

/** “Fri 6 Mar”, “today”, “9–13 March”, “16 March or later”, “with its own date”. */
export function whenWords(plan: Plan | null, today: Day): string {
  if (plan === null) return 'left with its date';
  if (plan.kind === 'today') return 'for today';
  const { first, last } = plan;
  if (last === null) return `for ${shortDay(first, today)} or later`;
  return first === last ? `for ${shortDay(first, today)}` : `for ${daysWords(first, last, today)}`;
}

function placedWords(
  entries: readonly DeskEntry[],
  dated: readonly DeskEntry[],
  plan: Plan | null,
  newDue: Day | null,
  today: Day
): string {
  const parts: string[] = [];
  const planned = entries.length - (newDue === null ? 0 : dated.length);
  if (planned > 0)
    parts.push(
      planned === entries.length
        ? `${namesOf(entries)} ${whenWords(plan, today)}.`
        : `${many(planned, 'task')} ${whenWords(plan, today)}.`
    );
  if (newDue !== null)
    parts.push(
      dated.length === entries.length
        ? `${namesOf(entries)}: due ${shortDay(newDue, today)} now.`
        : `${many(dated.length, 'task')} due ${shortDay(newDue, today)} now.`
    );
  return parts.join(' ');
}
