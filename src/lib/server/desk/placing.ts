import { CodedError } from '../../core/errors.ts';
import { agree, many } from '../../core/many.ts';
import { firstDayOf, planForDay, planForSpan, type Plan } from '../../core/desk/plan.ts';
import { planShort } from '../../core/desk/place-words.ts';
import { formatDay, parseDay, type Day } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
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
import { givenBackTo } from './given.ts';
import { NO_PLAN } from './placed-marks.ts';
import type { PlaceInput } from './schema.ts';

/** Within so long another look is the same one. */
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
  place(actor: Actor, input: PlaceInput): Committed<string> {
    const { desk, plan, entries, dated } = this.#asked(actor, input);
    const newDue = dated.length === 0 ? null : this.#newDue(input, plan, desk);
    const words = placedWords(entries, dated, plan, newDue, desk.today);
    return this.#committer.commit(actor, words, (writer) => {
      if (newDue !== null) this.#redate(writer, dated, newDue);
      for (const entry of entries) this.#write(writer, desk, entry, dated.includes(entry) ? null : plan);
      return words;
    });
  }

  /** Those of some tasks that would get a new due date. @throws as `place` */
  redated(actor: Actor, input: PlaceInput): number[] {
    return this.#asked(actor, input).dated.map(({ row }) => row.id);
  }

  #asked(actor: Actor, input: PlaceInput) {
    const desk = deskAmong(this.#app, actor.personId!, input.taskIds);
    const plan = planOf(input, desk);
    const until = plan && firstDayOf(plan, desk.today);
    const entries = this.#all(desk, input.taskIds);
    const dated = entries.filter((entry) => this.#takesDue(entry, until, input, desk));
    return { desk, plan, entries, dated };
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
   * Gives a task back, with a word: to whom, `givenBackTo` says.
   * @returns the name of whoever has it then; null where nobody does
   * @throws CodedError `desk-not-there`
   */
  giveBack(actor: Actor, taskId: number, word: string): Committed<{ to: string | null }> {
    const personId = actor.personId!;
    const desk = deskAmong(this.#app, personId, [taskId]);
    const [entry] = this.#all(desk, [taskId]);
    const to = givenBackTo(this.#app, entry!.row, personId);
    const task = this.#stores.tasks.byId(taskId)!;
    const title = `“${task.name}” given back${to === null ? '' : ` to ${to.name}`}`;
    return this.#committer.commit(actor, title, (writer) => {
      if (word !== '')
        writer.insert('comment', { task_id: taskId, person_id: personId, at: writer.head.at, text: word });
      this.#tasks.update(writer, task, {
        ownerId: to?.id ?? null,
        otherOwnerIds: this.#stores.tasks
          .otherOwnersOf(taskId)
          .filter((id) => id !== personId && id !== to?.id),
        private: false
      });
      return { to: to?.name ?? null };
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
  #takesDue(
    { row, task }: DeskEntry,
    until: Day | null,
    { keepDue, asDue, newDue }: PlaceInput,
    { today }: Desk
  ): boolean {
    if (until === null) return false;
    if (task.due === null) return asDue;
    // A due date that is reached keeps it in Today, whatever is planned.
    if (until <= task.due || (keepDue && task.due > today)) return false;
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
    const columns = planColumns(plan, writer.head.at);
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
  return to === 'day' ? planForDay(parseDay(day!), today) : planForSpan(to, today, wall);
}

function planColumns(plan: Plan | null, at: number): Row {
  if (plan === null) return NO_PLAN;
  if (plan.kind === 'today') return { ...NO_PLAN, plan: 'today', planned_at: at };
  const { first, last } = plan;
  return {
    ...{ plan: 'days', plan_first: formatDay(first), planned_at: at },
    plan_last: last === null ? null : formatDay(last)
  };
}

/** What was done with which of them: “‘Send the log’ for Fri 6 Mar”, “2 tasks for today; 1 task: due Mon 9 Mar now”. */
function placedWords(
  entries: readonly DeskEntry[],
  dated: readonly DeskEntry[],
  plan: Plan | null,
  newDue: Day | null,
  today: Day
): string {
  const planned = entries.filter((entry) => !dated.includes(entry));
  const words = (those: readonly DeskEntry[]) =>
    those.length === 1 && entries.length === 1 ? `“${those[0]!.row.name}”` : many(those.length, 'task');
  return [
    ...(planned.length > 0 ? [`${words(planned)} ${whenWords(plan, planned.length, today)}`] : []),
    ...(newDue !== null ? [`${words(dated)}: due ${shortDay(newDue, today)} now`] : [])
  ].join('; ');
}

function whenWords(plan: Plan | null, count: number, today: Day): string {
  if (plan === null) return `left where ${agree(count, 'its date puts it', 'their dates put them')}`;
  return plan.kind === 'today' ? 'for today' : `for ${planShort(plan, today)}`;
}
