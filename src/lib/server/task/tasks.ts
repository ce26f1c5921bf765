import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { instantOnWall } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { isOpen } from '../../core/task/model.ts';
import { dueMoment } from '../../core/ring/moments.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Row } from '../db/row.ts';
import type { TaskInput } from './schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Status } from '../store/projects.ts';
import type { Stores } from '../store/all.ts';
import { toMoment, type StoredMoment } from '../store/task-row.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { sightOf } from '../auth/sight.ts';
import { checkPutInto } from '../project/project-rights.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { Renewals, Renewed } from './renewals.ts';
import { formOf, mergeEdit, ownFieldsOf, type LostField, type TaskForm } from './task-form.ts';
import { syncFields, syncOwners, syncTags } from './task-parts.ts';

export interface EditOptions {
  /** The task as the editor found it: what others changed since is kept, and named. */
  base?: Partial<TaskForm> | null;
  /** Finishes or closes the open subtasks with it. */
  withSubtasks?: boolean;
}

/** What came of an edit. */
export interface Edited {
  /** Fields that somebody else changed meanwhile and that stay theirs. */
  lost: LostField[];
  /** The next round, where the edit finished a recurring task. */
  renewed: Renewed | null;
}

/** What people do with single tasks. */
export class TaskService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;
  /** As they were when the first task of a change was written: a change that writes tasks writes no status. */
  readonly #statuses = new WeakMap<ChangeWriter, Status[]>();
  readonly #renewals: Renewals;

  constructor(stores: Stores, committer: Committer, source: FactsSource, renewals: Renewals) {
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
    this.#renewals = renewals;
  }

  /** @throws CodedError `person-gone`, `project-gone`, `project-not-open`, `private-not-yours` and those of its parts */
  add(actor: Actor, input: TaskInput): Committed<number> {
    this.#check(actor, input, null);
    return this.#committer.commit(actor, `Task “${input.name}” added`, (writer) =>
      this.insert(writer, input)
    );
  }

  /** One below another, which says where it stands and whose it is. @throws CodedError `task-gone`, `task-no-name`, and as `add` */
  addSubtask(actor: Actor, parentId: number, name: string, dueDate: string | null): Committed<number> {
    const parent = this.#stores.tasks.byId(parentId);
    if (!parent) throw new CodedError('task-gone');
    if (name === '') throw new CodedError('task-no-name', {}, 'name');
    const { projectId, sectionId, ownerId, priority } = parent;
    return this.add(actor, {
      ...{ name: name.slice(0, 500), description: '', statusId: null, parentId, private: parent.private },
      ...{ projectId, sectionId, ownerId, priority },
      ...{ dueDate, dueTime: null, startDate: null, startTime: null }
    });
  }

  /** Inserts a task inside a change that is under way. */
  insert(writer: ChangeWriter, input: TaskInput, importKey: string | null = null): number {
    const { at, actorId } = writer.head;
    const status = this.#status(writer, input.statusId);
    const due = this.#moment(input.dueDate, input.dueTime, input.ownerId, null, input.dueZone);
    const id = writer.insert('task', {
      ...this.#columns(input, status, due, null),
      original_due_date: due?.date ?? null,
      original_due_time: due?.time ?? null,
      original_due_zone: due?.zone ?? null,
      created_at: at,
      assigned_at: at,
      created_by: actorId,
      touched_at: at,
      finished_at: isOpen(status.phase) ? null : at,
      import_key: importKey
    });
    writer.insert('status_span', { task_id: id, status_id: status.id, from_at: at, until_at: null });
    this.#syncParts(writer, id, input);
    return id;
  }

  /**
   * Changes some fields of a task; a finished recurring task starts its next round in the same change.
   * @throws CodedError `task-gone`, `task-binned`, `open-subtasks`, `person-gone`, `project-gone` or `private-not-yours`
   */
  edit(
    actor: Actor,
    id: number,
    edit: Partial<TaskInput>,
    { base = null, withSubtasks = false }: EditOptions = {}
  ): Committed<Edited> {
    const task = this.#stores.tasks.byId(id);
    if (!task) throw new CodedError('task-gone');
    if (task.setAside === 'binned') throw new CodedError('task-binned');
    const current = formOf(task, this.#stores);
    const { patch, lost } = mergeEdit(edit, base, current);
    const input = { ...current, ...patch };
    this.#check(actor, input, task);
    return this.#committer.commit(actor, `Task “${input.name}” changed`, (writer) => {
      const renewed = this.update(writer, task, patch, withSubtasks);
      return { lost, renewed };
    });
  }

  /**
   * Writes what differs, inside a change that is under way: slips, original due and the times in each status are kept.
   * @throws CodedError `open-subtasks` when it would be done with before its subtasks are
   */
  update(writer: ChangeWriter, task: Task, patch: Partial<TaskInput>, withSubtasks = false): Renewed | null {
    const { at, actorId, source } = writer.head;
    const input: TaskInput = { ...ownFieldsOf(task), ...patch };
    const status = this.#status(writer, input.statusId ?? task.statusId);
    const due = this.#moment(input.dueDate, input.dueTime, input.ownerId, task.due, patch.dueZone);
    const columns: Row = this.#columns(input, status, due, task);
    if (input.ownerId !== task.ownerId) columns.assigned_at = at;
    // What is parked is nobody's: given to somebody, it is back.
    if (task.setAside === 'parked' && input.ownerId !== null) Object.assign(columns, NOT_ASIDE);
    if (columns.due_date !== (task.due?.date ?? null)) columns.due_since = at;
    if (task.originalDue === null && due !== null) {
      Object.assign(columns, {
        original_due_date: due.date,
        original_due_time: due.time,
        original_due_zone: due.zone
      });
    }
    const finishes = isOpen(task.phase) && !isOpen(status.phase);
    if (finishes) this.#finishSubtasks(writer, task, status, withSubtasks);
    if (status.id !== task.statusId) {
      this.#moveSpan(writer, task.id, status.id, at);
      if (isOpen(status.phase) !== isOpen(task.phase)) columns.finished_at = isOpen(status.phase) ? null : at;
    }
    // The last change by a person is known; what comes in by a file or a rule is none.
    const touched: Row =
      source === 'import' || source === 'rule' || source === 'sweep' ? {} : { touched_at: at };
    const changed = writer.update('task', task.id, columns, undefined, touched);
    const partsChanged = this.#syncParts(writer, task.id, patch);
    if (!changed && !partsChanged) return null;
    if (!changed) writer.update('task', task.id, touched);
    if (task.due && due && this.#isLater(due, task.due)) {
      writer.insert('slip', {
        task_id: task.id,
        at,
        by_id: actorId,
        from_due: written(task.due),
        to_due: written(due),
        round: task.round
      });
    }
    return finishes ? this.#renewals.afterFinish(writer, task.id) : null;
  }

  /** Subtasks that are still open keep a task from being finished, unless they are finished with it. */
  #finishSubtasks(writer: ChangeWriter, task: Task, status: Status, withThem: boolean): void {
    const open = this.#stores.tasks
      .childrenOf(task.id)
      .filter(({ phase, setAside }) => isOpen(phase) && setAside === null);
    if (open.length === 0) return;
    if (!withThem) {
      const names = open.map(({ name }) => `“${name}”`);
      const listed =
        names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ');
      throw new CodedError('open-subtasks', { names: listed, count: names.length }, 'statusId');
    }
    for (const child of open) this.update(writer, child, { statusId: status.id }, true);
  }

  /** @returns whether any part changed */
  #syncParts(writer: ChangeWriter, taskId: number, patch: Partial<TaskInput>): boolean {
    const before = writer.written.length;
    if (patch.tags) syncTags(writer, this.#stores, taskId, patch.tags);
    if (patch.otherOwnerIds) {
      const leads = patch.ownerId ?? this.#stores.tasks.byId(taskId)?.ownerId;
      syncOwners(
        writer,
        this.#stores,
        taskId,
        patch.otherOwnerIds.filter((id) => id !== leads)
      );
    }
    if (patch.fields) syncFields(writer, this.#stores, taskId, patch.fields);
    return writer.written.length > before;
  }

  /** What cannot be: names that somebody took away meanwhile, another's private task, a task under itself. */
  #check(actor: Actor, input: TaskInput, before: Task | null): void {
    const id = before?.id ?? null;
    const { people, projects } = this.#source.facts;
    const { ownerId, projectId, parentId, sectionId, rhythm } = input;
    if (ownerId !== null && !people.has(ownerId)) throw new CodedError('person-gone', {}, 'ownerId');
    if (input.otherOwnerIds?.some((other) => !people.has(other)))
      throw new CodedError('person-gone', {}, 'otherOwnerIds');
    if (projectId !== null && !projects.has(projectId)) throw new CodedError('project-gone', {}, 'projectId');
    if (projectId !== null && projectId !== before?.projectId) this.#checkOpen(actor, projectId, ownerId);
    if (sectionId != null && this.#stores.projects.section(sectionId)?.projectId !== projectId)
      input.sectionId = null;
    if (parentId != null) this.#checkParent(id, parentId);
    if (rhythm && input.renewFrom !== 'finish' && input.dueDate === null)
      throw new CodedError('rhythm-needs-due', {}, 'rhythm');
    if (input.private && actor.personId !== null && ownerId !== null && ownerId !== actor.personId)
      throw new CodedError('private-not-yours', {}, 'private');
  }

  /** What rules do asks nobody: their keepers name projects. */
  #checkOpen({ personId, source }: Actor, projectId: number, ownerId: number | null): void {
    const person = personId === null || source === 'rule' ? null : this.#stores.people.byId(personId);
    if (person) checkPutInto(this.#stores, sightOf(person, this.#stores), projectId, ownerId);
  }

  #checkParent(id: number | null, parentId: number): void {
    let above = this.#stores.tasks.byId(parentId);
    if (!above) throw new CodedError('task-gone', {}, 'parentId');
    for (let depth = 0; above; depth++) {
      if (above.id === id || depth > 20) throw new CodedError('task-under-itself', {}, 'parentId');
      above = above.parentId === null ? null : this.#stores.tasks.byId(above.parentId);
    }
  }

  #columns(input: TaskInput, status: Status, due: StoredMoment | null, task: Task | null): Row {
    const start = this.#moment(input.startDate, input.startTime, input.ownerId, task?.start ?? null);
    const remind = this.#moment(
      input.remindDate ?? null,
      input.remindTime ?? null,
      input.ownerId,
      task?.remindOn ?? null
    );
    return {
      name: input.name,
      description: input.description,
      project_id: input.projectId,
      section_id: input.projectId === null ? null : (input.sectionId ?? null),
      owner_id: input.ownerId,
      status_id: status.id,
      private: input.private ? 1 : 0,
      priority: input.priority,
      due_date: due?.date ?? null,
      due_time: due?.time ?? null,
      due_zone: due?.zone ?? null,
      start_date: start?.date ?? null,
      start_time: start?.time ?? null,
      start_zone: start?.zone ?? null,
      remind_date: remind?.date ?? null,
      remind_time: remind?.time ?? null,
      remind_zone: remind?.zone ?? null,
      percent: input.percent ?? null,
      parent_id: input.parentId ?? null,
      log_time: input.logTime ? 1 : 0,
      keep: input.keep ? 1 : 0,
      ...rhythmColumns(input, due, task)
    };
  }

  /** A time is on the wall of the zone it had before, else of the owner's, else of the workspace's. */
  #moment(
    date: string | null,
    time: string | null,
    ownerId: number | null,
    before: StoredMoment | null,
    own?: string
  ): StoredMoment | null {
    if (date === null) return null;
    if (time === null) return { date, time: null, zone: null };
    if (own) return { date, time, zone: own };
    if (before?.zone) return { date, time, zone: before.zone };
    const { people, workspace } = this.#source.facts;
    const zone = (ownerId === null ? undefined : people.get(ownerId)?.zone) ?? workspace.zone;
    return { date, time, zone: zone.nameAt(instantOnWall(parseDay(date), parseTimeOfDay(time), zone)) };
  }

  /** A change of very many tasks reads the statuses once. */
  #status(writer: ChangeWriter, id: number | null): Status {
    let statuses = this.#statuses.get(writer);
    if (!statuses) this.#statuses.set(writer, (statuses = this.#stores.projects.statuses()));
    return statuses.find((status) => status.id === id) ?? statuses[0]!;
  }

  #moveSpan(writer: ChangeWriter, taskId: number, statusId: number, at: number): void {
    moveStatusSpan(writer, this.#stores, taskId, statusId, at);
  }

  #isLater(due: StoredMoment, before: StoredMoment): boolean {
    const { zone, calendar, endOfDay } = this.#source.facts.workspace;
    const at = (moment: StoredMoment) => dueMoment(toMoment(moment), zone, endOfDay, calendar);
    return at(due) > at(before);
  }
}

/** The columns of a task that stands among the others, having been parked. */
export const NOT_ASIDE = {
  ...{ set_aside: null, set_aside_at: null },
  ...{ review_date: null, former_owner_id: null, parked_by: null }
};

/** Ends the stretch in the present status and starts one in another. */
export function moveStatusSpan(
  writer: ChangeWriter,
  stores: Stores,
  taskId: number,
  statusId: number,
  at: number
): void {
  const open = stores.tasks.openStatusSpan(taskId);
  if (open !== null) writer.update('status_span', open, { until_at: at });
  writer.insert('status_span', { task_id: taskId, status_id: statusId, from_at: at, until_at: null });
}

/** A rhythm that is new, or other than before, goes from the due date as it is now; one that stays keeps its dates. */
function rhythmColumns(input: TaskInput, due: StoredMoment | null, task: Task | null): Row {
  if (!input.rhythm)
    return {
      rhythm: null,
      renew_from: null,
      renew_closed_day: 'as-is',
      renew_copy: 0,
      rhythm_origin: null,
      rhythm_date: null
    };
  const rhythm = JSON.stringify(input.rhythm);
  const stays = task?.renewal && JSON.stringify(task.renewal.rhythm) === rhythm;
  return {
    rhythm,
    renew_from: input.renewFrom ?? 'due',
    renew_closed_day: input.renewClosedDay ?? 'as-is',
    renew_copy: input.renewCopy ? 1 : 0,
    rhythm_origin: (stays ? task.renewal!.rhythmOrigin : null) ?? due?.date ?? null,
    rhythm_date: (stays ? task.renewal!.rhythmDate : null) ?? due?.date ?? null
  };
}

/** Whether somebody who sees a task may change it: its owners, whoever made it, the owner's manager, a coordinator. */
export function mayEdit(
  { id, ownerId, createdBy }: Task,
  { personId, all, reports }: Sight,
  { stores }: { stores: Stores }
): boolean {
  return (
    all ||
    ownerId === personId ||
    createdBy === personId ||
    (ownerId !== null && reports.includes(ownerId)) ||
    stores.tasks.otherOwnersOf(id).includes(personId)
  );
}

function written({ date, time, zone }: StoredMoment): string {
  return time === null ? date : `${date}T${time}[${zone}]`;
}
