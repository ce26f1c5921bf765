import { CodedError } from '../../core/errors.ts';
import { MS_PER_DAY, formatDay } from '../../core/time/day.ts';
import { leadOfReminder, taskReminder } from '../../core/forecast/facts/reminders.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { ReminderInput, TimeInput } from './schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Stores } from '../store/all.ts';
import { PART_TABLES } from '../store/task-parts.ts';
import type { SetAside } from '../../core/task/model.ts';
import type { Task } from '../store/tasks.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import { isBackAtOnce } from './back-from-parking.ts';
import type { Renewals, Renewed } from './renewals.ts';
import { NOT_ASIDE } from './tasks.ts';

/** Days for which what was deleted stays in the bin. */
export const BIN_DAYS = 30;
/** Days after which a parked task comes back, when nobody says otherwise. */
const REVIEW_AFTER_DAYS = 14;

/** What hangs on a task and what happens to it besides its fields. */
export class TaskActs {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #renewals: Renewals;

  constructor(
    stores: Stores,
    committer: Committer,
    source: FactsSource,
    clock: WorkspaceClock,
    renewals: Renewals
  ) {
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
    this.#clock = clock;
    this.#renewals = renewals;
  }

  /** @throws CodedError `task-gone` or `task-binned` */
  comment(actor: Actor, taskId: number, text: string): Committed<number> {
    const task = this.#need(taskId);
    return this.#committer.commit(actor, `Comment on “${task.name}”`, (writer) => {
      const id = writer.insert('comment', {
        task_id: taskId,
        person_id: actor.personId,
        at: writer.head.at,
        text
      });
      this.#touch(writer, taskId);
      return id;
    });
  }

  /** Takes one's own comment back. @throws CodedError `comment-gone` */
  dropComment(actor: Actor, taskId: number, id: number): Committed<void> {
    const comment = this.#stores.taskParts.comment(id);
    if (!comment || comment.taskId !== taskId || comment.personId !== actor.personId)
      throw new CodedError('comment-gone');
    return this.#committer.commit(actor, `Comment on “${this.#need(taskId).name}” removed`, (writer) => {
      writer.remove('comment', id);
    });
  }

  /** @throws CodedError `task-gone` or `task-binned` */
  logTime(actor: Actor, taskId: number, { minutes, note }: TimeInput): Committed<number> {
    const task = this.#need(taskId);
    return this.#committer.commit(actor, `Time logged on “${task.name}”`, (writer) => {
      const { at } = writer.head;
      const id = writer.insert('time_entry', {
        task_id: taskId,
        person_id: actor.personId,
        at,
        minutes,
        note
      });
      this.#touch(writer, taskId);
      return id;
    });
  }

  dropTime(actor: Actor, taskId: number, id: number): Committed<void> {
    const entry = this.#stores.taskParts.times(taskId).find((one) => one.id === id);
    if (!entry) throw new CodedError('time-gone');
    return this.#committer.commit(actor, `Time on “${this.#need(taskId).name}” removed`, (writer) => {
      writer.remove('time_entry', id);
    });
  }

  /**
   * Sets a reminder.
   * @throws CodedError `reminder-past` when it would never ring, `reminder-no-date` when the task lacks the date it is counted from
   */
  remind(actor: Actor, taskId: number, { whose, timing }: ReminderInput): Committed<number> {
    const task = this.#need(taskId);
    const facts = this.#stores.tasks.factsOf(taskId)!;
    const { planner } = this.#source;
    const lead = leadOfReminder(facts, taskReminder(0, null, timing, 0));
    if (!planner.anchor(lead, facts))
      throw new CodedError('reminder-no-date', { anchor: lead.anchor ?? '' }, 'timing');
    const personId = whose === 'mine' ? actor.personId : null;
    const reader = this.#source.facts.people.get(personId ?? task.ownerId ?? 0);
    // On recurring work it comes in the next round; a moment of its own comes in none.
    const comesAgain = task.renewal !== null && !('date' in timing);
    if (reader && !comesAgain && !(planner.ring(lead, facts, reader).instant > this.#clock.now()))
      throw new CodedError('reminder-past', {}, 'timing');
    return this.#committer.commit(actor, `Reminder set on “${task.name}”`, (writer) =>
      writer.insert('reminder', {
        task_id: taskId,
        person_id: personId,
        timing: JSON.stringify(timing),
        set_by: actor.personId
      })
    );
  }

  /** @throws CodedError `reminder-gone` */
  dropReminder(actor: Actor, taskId: number, id: number): Committed<void> {
    const reminder = this.#stores.taskParts.reminder(id);
    if (!reminder || reminder.taskId !== taskId) throw new CodedError('reminder-gone');
    return this.#committer.commit(
      actor,
      `Reminder on “${this.#need(taskId).name}” removed`,
      (writer) => void writer.remove('reminder', id)
    );
  }

  /** Connects a task with another, or with a project besides its own. @throws CodedError `link-to-itself`, `task-gone` or `project-gone` */
  connect(actor: Actor, taskId: number, to: { taskId: number } | { projectId: number }): Committed<void> {
    const task = this.#need(taskId);
    const links = this.#stores.taskParts.links(taskId);
    if ('taskId' in to) {
      if (to.taskId === taskId) throw new CodedError('link-to-itself', {}, 'to');
      if (!this.#stores.tasks.byId(to.taskId)) throw new CodedError('task-gone', {}, 'to');
    } else if (!this.#source.facts.projects.has(to.projectId)) throw new CodedError('project-gone', {}, 'to');
    const known = links.some((link) =>
      'taskId' in to
        ? link.toTaskId === to.taskId || link.taskId === to.taskId
        : link.toProjectId === to.projectId
    );
    return this.#committer.commit(actor, `“${task.name}” connected`, (writer) => {
      if (known) return;
      writer.insert('task_link', {
        task_id: taskId,
        to_task_id: 'taskId' in to ? to.taskId : null,
        to_project_id: 'projectId' in to ? to.projectId : null
      });
      this.#touch(writer, taskId);
    });
  }

  disconnect(actor: Actor, taskId: number, linkId: number): Committed<void> {
    const link = this.#stores.taskParts.links(taskId).find(({ id }) => id === linkId);
    if (!link) throw new CodedError('link-gone');
    return this.#committer.commit(actor, `“${this.#need(taskId).name}” disconnected`, (writer) => {
      writer.remove('task_link', linkId);
      this.#touch(writer, taskId);
    });
  }

  /** Makes these the outside contacts that have to do with a task. */
  setContacts(actor: Actor, taskId: number, contactIds: readonly number[]): Committed<void> {
    const task = this.#need(taskId);
    return this.#committer.commit(actor, `Outside contacts of “${task.name}” changed`, (writer) => {
      const wanted = new Set(contactIds);
      for (const link of this.#stores.contacts.linksOfTask(taskId))
        if (!wanted.delete(link.contactId)) writer.remove('contact_link', link.id);
      for (const contact_id of wanted)
        if (this.#stores.contacts.byId(contact_id))
          writer.insert('contact_link', { contact_id, project_id: null, task_id: taskId });
      this.#touch(writer, taskId);
    });
  }

  /** Parks a task: without an owner's commitment, until it comes back by itself. @throws CodedError `park-past` */
  park(actor: Actor, taskId: number, reviewDate: string | null): Committed<void> {
    const task = this.#need(taskId);
    if (isBackAtOnce(this.#source.facts, task, reviewDate, actor.personId, this.#clock.now()))
      throw new CodedError('park-past', {}, 'reviewDate');
    return this.#committer.commit(actor, `“${task.name}” parked`, (writer) =>
      this.setAside(writer, task, 'parked', reviewDate)
    );
  }

  archive(actor: Actor, taskId: number): Committed<void> {
    const task = this.#need(taskId);
    return this.#committer.commit(actor, `“${task.name}” archived`, (writer) =>
      this.setAside(writer, task, 'archived')
    );
  }

  /** Deletes a task: it stays in the bin for 30 days. */
  bin(actor: Actor, taskId: number): Committed<void> {
    const task = this.#need(taskId);
    return this.#committer.commit(actor, `“${task.name}” moved to the bin`, (writer) =>
      this.setAside(writer, task, 'binned')
    );
  }

  /** Brings a task back into the list, to whoever had it. */
  restore(actor: Actor, taskId: number): Committed<void> {
    const task = this.#stores.tasks.byId(taskId);
    if (!task) throw new CodedError('task-gone');
    return this.#committer.commit(actor, `“${task.name}” brought back`, (writer) =>
      this.bringBack(writer, task)
    );
  }

  /** Sets a task aside inside a change that is under way. */
  setAside(writer: ChangeWriter, task: Task, how: SetAside, reviewDate: string | null = null): void {
    const { at } = writer.head;
    const today = this.#source.facts.workspace.zone.dayOf(at);
    writer.update('task', task.id, {
      set_aside: how,
      set_aside_at: at,
      // The last touch is a person's: what a rule or a sweep sets aside, nobody has touched.
      ...(isByPerson(writer) ? { touched_at: at } : {}),
      ...(how === 'parked'
        ? {
            review_date: reviewDate ?? formatDay(today + REVIEW_AFTER_DAYS),
            former_owner_id: task.ownerId ?? task.formerOwnerId,
            parked_by: isByPerson(writer) ? writer.head.actorId : null,
            owner_id: null
          }
        : {})
    });
  }

  /** @param ownerId whose it is then; left out, whoever had it */
  bringBack(writer: ChangeWriter, task: Task, ownerId = task.ownerId ?? task.formerOwnerId): void {
    writer.update('task', task.id, {
      ...NOT_ASIDE,
      owner_id: ownerId,
      assigned_at: writer.head.at,
      ...(isByPerson(writer) ? { touched_at: writer.head.at } : {})
    });
  }

  /** The next round of a task that comes back by the calendar, whether or not the last is finished. */
  renewByCalendar(taskId: number): Renewed | null {
    const task = this.#stores.tasks.byId(taskId);
    if (!task?.renewal) return null;
    return this.#committer.commit(
      { personId: null, source: 'renewal' },
      `“${task.name}”: next round`,
      (writer) => this.#renewals.renew(writer, task, task.finishedAt)
    ).result;
  }

  /** Takes a task that has been in the bin for its time out for good, with what hangs on it. */
  purge(taskId: number): void {
    const task = this.#stores.tasks.byId(taskId);
    if (task?.setAside !== 'binned') return;
    this.#committer.commit(
      { personId: null, source: 'sweep' },
      `“${task.name}” erased after ${BIN_DAYS} days in the bin`,
      (writer) => this.remove(writer, taskId)
    );
  }

  /** Takes a task out with what hangs on it, inside a change that is under way; its subtasks stand by themselves then. */
  remove(writer: ChangeWriter, taskId: number): void {
    for (const table of PART_TABLES)
      for (const id of this.#stores.taskParts.idsOf(table, taskId)) writer.remove(table, id);
    for (const child of this.#stores.tasks.childrenOf(taskId))
      writer.update('task', child.id, { parent_id: null });
    writer.remove('task', taskId);
  }

  #touch(writer: ChangeWriter, taskId: number): void {
    writer.update('task', taskId, { touched_at: writer.head.at });
  }

  #need(id: number): Task {
    const task = this.#stores.tasks.byId(id);
    if (!task) throw new CodedError('task-gone');
    if (task.setAside === 'binned') throw new CodedError('task-binned');
    return task;
  }
}

/** When what stands in the bin leaves it for good, ms. */
export function purgeInstant({ setAside, setAsideAt }: Pick<Task, 'setAside' | 'setAsideAt'>): number | null {
  return setAside === 'binned' ? setAsideAt! + BIN_DAYS * MS_PER_DAY : null;
}

function isByPerson({ head: { source } }: ChangeWriter): boolean {
  return source !== 'rule' && source !== 'sweep' && source !== 'import' && source !== 'renewal';
}
