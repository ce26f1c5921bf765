import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { instantOnWall } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { isOpen } from '../../core/rule/model.ts';
import { dueMoment } from '../../core/ring/moments.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Row } from '../db/row.ts';
import type { TaskInput } from '../schema/task.ts';
import type { ChangeWriter } from '../store/changes.ts';
import type { Status } from '../store/projects.ts';
import type { Stores } from '../store/all.ts';
import { toMoment, type Sight, type StoredMoment, type Task } from '../store/tasks.ts';
import type { Actor, Committed, Committer } from './commit.ts';

/** What people do with single tasks. */
export class TaskService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;

  constructor(stores: Stores, committer: Committer, source: FactsSource) {
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
  }

  /** @throws CodedError `person-gone`, `project-gone` or `private-not-yours` */
  add(actor: Actor, input: TaskInput): Committed<number> {
    this.#checkNames(input);
    checkPrivate(actor, input);
    return this.#committer.commit(actor, `Task “${input.name}” added`, (writer) =>
      this.insert(writer, input)
    );
  }

  /** Inserts a task inside a change that is under way. */
  insert(writer: ChangeWriter, input: TaskInput, importKey: string | null = null): number {
    const { at, actorId } = writer.head;
    const status = this.#status(input.statusId);
    const due = this.#moment(input.dueDate, input.dueTime, input.ownerId, null);
    const id = writer.insert('task', {
      ...this.#columns(input, status, due, null),
      original_due_date: due?.date ?? null,
      original_due_time: due?.time ?? null,
      original_due_zone: due?.zone ?? null,
      created_at: at,
      created_by: actorId,
      touched_at: at,
      finished_at: isOpen(status.phase) ? null : at,
      import_key: importKey
    });
    writer.insert('status_span', { task_id: id, status_id: status.id, from_at: at, until_at: null });
    return id;
  }

  /**
   * @throws CodedError `task-gone`, `person-gone`, `project-gone` or `private-not-yours`
   */
  edit(actor: Actor, id: number, input: TaskInput): Committed<void> {
    const task = this.#stores.tasks.byId(id);
    if (!task) throw new CodedError('task-gone');
    this.#checkNames(input);
    checkPrivate(actor, input);
    return this.#committer.commit(actor, `Task “${input.name}” changed`, (writer) =>
      this.update(writer, task, input)
    );
  }

  /** Writes what differs: slips, original due and the times in each status are kept. */
  update(writer: ChangeWriter, task: Task, input: TaskInput): void {
    const { at, actorId } = writer.head;
    const status = this.#status(input.statusId ?? task.statusId);
    const due = this.#moment(input.dueDate, input.dueTime, input.ownerId, task.due);
    const patch: Row = this.#columns(input, status, due, task);
    if (task.originalDue === null && due !== null) {
      Object.assign(patch, {
        original_due_date: due.date,
        original_due_time: due.time,
        original_due_zone: due.zone
      });
    }
    if (status.id !== task.statusId) {
      this.#moveSpan(writer, task.id, status.id, at);
      if (isOpen(status.phase) !== isOpen(task.phase)) patch.finished_at = isOpen(status.phase) ? null : at;
    }
    if (!writer.update('task', task.id, patch)) return;
    writer.update('task', task.id, { touched_at: at });
    if (task.due && due && this.#isLater(due, task.due)) {
      writer.insert('slip', {
        task_id: task.id,
        at,
        by_id: actorId,
        from_due: written(task.due),
        to_due: written(due)
      });
    }
  }

  /** @throws CodedError `person-gone` or `project-gone` when somebody took away meanwhile what the form still offered */
  #checkNames({ ownerId, projectId }: TaskInput): void {
    const { people, projects } = this.#source.facts;
    if (ownerId !== null && !people.has(ownerId)) throw new CodedError('person-gone', {}, 'ownerId');
    if (projectId !== null && !projects.has(projectId)) throw new CodedError('project-gone', {}, 'projectId');
  }

  #columns(input: TaskInput, status: Status, due: StoredMoment | null, task: Task | null): Row {
    const start = this.#moment(input.startDate, input.startTime, input.ownerId, task?.start ?? null);
    return {
      name: input.name,
      description: input.description,
      project_id: input.projectId,
      owner_id: input.ownerId,
      status_id: status.id,
      private: input.private ? 1 : 0,
      priority: input.priority,
      due_date: due?.date ?? null,
      due_time: due?.time ?? null,
      due_zone: due?.zone ?? null,
      start_date: start?.date ?? null,
      start_time: start?.time ?? null,
      start_zone: start?.zone ?? null
    };
  }

  /** A time is on the wall of the zone it had before, else of the owner's, else of the workspace's. */
  #moment(
    date: string | null,
    time: string | null,
    ownerId: number | null,
    before: StoredMoment | null
  ): StoredMoment | null {
    if (date === null) return null;
    if (time === null) return { date, time: null, zone: null };
    if (before?.zone) return { date, time, zone: before.zone };
    const { people, workspace } = this.#source.facts;
    const zone = (ownerId === null ? undefined : people.get(ownerId)?.zone) ?? workspace.zone;
    return { date, time, zone: zone.nameAt(instantOnWall(parseDay(date), parseTimeOfDay(time), zone)) };
  }

  #status(id: number | null): Status {
    const statuses = this.#stores.projects.statuses();
    return statuses.find((status) => status.id === id) ?? statuses[0]!;
  }

  #moveSpan(writer: ChangeWriter, taskId: number, statusId: number, at: number): void {
    const open = this.#stores.tasks.openStatusSpan(taskId);
    if (open !== null) writer.update('status_span', open, { until_at: at });
    writer.insert('status_span', { task_id: taskId, status_id: statusId, from_at: at, until_at: null });
  }

  #isLater(due: StoredMoment, before: StoredMoment): boolean {
    const { zone, calendar, endOfDay } = this.#source.facts.workspace;
    const at = (moment: StoredMoment) => dueMoment(toMoment(moment), zone, endOfDay, calendar);
    return at(due) > at(before);
  }
}

/** A private task is its owner's; one without an owner belongs to whoever makes it. */
function checkPrivate({ personId }: Actor, { private: isPrivate, ownerId }: TaskInput): void {
  if (isPrivate && personId !== null && ownerId !== null && ownerId !== personId)
    throw new CodedError('private-not-yours', {}, 'private');
}

/** Whether somebody who sees a task may change it: its owner, whoever made it, the owner's manager, a coordinator. */
export function mayEdit({ ownerId, createdBy }: Task, { personId, all, reports }: Sight): boolean {
  return (
    all || ownerId === personId || createdBy === personId || (ownerId !== null && reports.includes(ownerId))
  );
}

function written({ date, time, zone }: StoredMoment): string {
  return time === null ? date : `${date}T${time}[${zone}]`;
}
