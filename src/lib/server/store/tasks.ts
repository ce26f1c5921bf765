import { WideRows } from '../db/wide-rows.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { RenewFrom } from '../../core/recurrence/renewal.ts';
import type { ClosedDayRule } from '../../core/ring/lead.ts';
import type { SetAside, StoredRhythm, Phase, Priority } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';
import { FactsQuery } from './task-facts.ts';
import { FROM_TASK, stored, TASK_COLUMNS, type StoredMoment, type TaskRow } from './task-row.ts';

export interface Task {
  id: number;
  name: string;
  description: string;
  projectId: number | null;
  ownerId: number | null;
  statusId: number;
  status: string;
  phase: Phase;
  priority: Priority;
  due: StoredMoment | null;
  originalDue: StoredMoment | null;
  start: StoredMoment | null;
  createdAt: number;
  finishedAt: number | null;
  round: number;
  slips: number;
  private: boolean;
  createdBy: number | null;
  /** The last change or comment by a person. */
  touchedAt: number;
  remindOn: StoredMoment | null;
  percent: number | null;
  /** Whose subtask it is. */
  parentId: number | null;
  sectionId: number | null;
  /** Time must be logged before it is done with. */
  logTime: boolean;
  /** No sweep may take it. */
  keep: boolean;
  setAside: SetAside | null;
  setAsideAt: number | null;
  /** When a parked task is looked at again. */
  reviewDate: string | null;
  formerOwnerId: number | null;
  /** Who parked it; null where nobody did, or a rule or a sweep. */
  parkedBy: number | null;
  renewal: TaskRenewal | null;
}

/** How a task comes back. */
export interface TaskRenewal {
  rhythm: StoredRhythm;
  from: RenewFrom;
  closedDay: ClosedDayRule;
  /** A finished copy stays behind, instead of one item that is used again. */
  copy: boolean;
  /** Where the rhythm began. */
  rhythmOrigin: string | null;
  /** The due date on the rhythm, before a closed-day rule moved it. */
  rhythmDate: string | null;
}

/** Which tasks somebody sees. A private one is seen by its owner alone; without an owner by whoever made it. */
export interface Sight {
  personId: number;
  /** All tasks that are not somebody else's private ones. */
  all: boolean;
  /** Everybody under a manager, whose tasks they see. */
  reports: readonly number[];
}

/**
 * What somebody sees: their own, what they made, their projects' (those of which they are a member, or in which they have a task),
 * their reports'; nobody another person's private task. `t` is the task; its parameters are those of `sightParameters`.
 */
export const SEEN = `
  (t.private = 0 OR coalesce(t.owner_id, t.former_owner_id, t.created_by) = @viewerId)
  AND (@seesAll = 1
    OR t.project_id IN (SELECT project_id FROM project_member WHERE person_id = @viewerId
      UNION SELECT mine.project_id FROM task mine WHERE mine.owner_id = @viewerId)
    OR t.owner_id = @viewerId OR t.created_by = @viewerId
    OR t.owner_id IN (SELECT value FROM json_each(@reports))
    OR t.id IN (SELECT task_id FROM co_owner WHERE person_id = @viewerId))`;

export class TaskStore {
  readonly #byId;
  readonly #facts;
  readonly #factsIn;
  readonly #factsAmong;
  readonly #byIds;
  readonly #others;
  readonly #children;
  readonly #byCalendar;
  readonly #parked;
  readonly #byKey;
  readonly #likenesses;
  readonly #total;
  readonly #openSpan;
  readonly #seen;
  readonly #there;
  readonly #openOf;
  readonly #withStatus;
  readonly #openOfProject;
  readonly #standing;
  readonly #highest;
  readonly #listed;

  constructor(db: Db) {
    this.#byId = db.prepare<[number], TaskRow>(`SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.id = ?`);
    this.#byIds = new WideRows<[string], TaskRow>(
      db,
      `SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.id IN (SELECT value FROM json_each(?))`
    );
    this.#openOf = db.prepare<[number], { count: number }>(
      `SELECT count(*) AS count FROM task t JOIN status s ON s.id = t.status_id WHERE t.owner_id = ? AND s.phase NOT IN ('finished', 'closed')`
    );
    this.#there = db.prepare<[string], { id: number }>(
      'SELECT id FROM task WHERE id IN (SELECT value FROM json_each(?))'
    );
    this.#facts = new FactsQuery<[]>(db, () => 'true');
    this.#factsIn = new FactsQuery<[number, number]>(db, (id) => `${id} BETWEEN ? AND ?`);
    this.#factsAmong = new FactsQuery<[string]>(db, (id) => `${id} IN (SELECT value FROM json_each(?))`);
    this.#others = db.prepare<[number], { personId: number }>(
      'SELECT person_id AS personId FROM co_owner WHERE task_id = ? ORDER BY position, id'
    );
    this.#byCalendar = db.prepare<[], { id: number }>(
      `SELECT id FROM task WHERE rhythm IS NOT NULL AND renew_from = 'calendar' AND set_aside IS NULL`
    );
    this.#parked = db.prepare<[], { id: number }>(`SELECT id FROM task WHERE set_aside = 'parked'`);
    this.#children = db.prepare<[number], TaskRow>(
      `SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.parent_id = ? ORDER BY coalesce(t.due_date, '9999'), t.id`
    );
    this.#byKey = db.prepare<[string], { id: number }>('SELECT id FROM task WHERE import_key = ?');
    this.#likenesses = db.prepare<
      [number],
      { id: number; name: string; projectId: number | null; dueDate: string | null }
    >(
      `SELECT id, name, project_id AS projectId, due_date AS dueDate FROM task
       WHERE (private = 0 OR owner_id = ?) AND coalesce(set_aside, '') <> 'binned' ORDER BY id DESC`
    );
    this.#openSpan = db.prepare<[number], { id: number }>(
      'SELECT id FROM status_span WHERE task_id = ? AND until_at IS NULL'
    );
    this.#withStatus = db.prepare<[number], { id: number }>('SELECT id FROM task WHERE status_id = ?');
    this.#seen = db.prepare<[Record<string, unknown>], { id: number }>(
      `SELECT t.id FROM task t WHERE t.id IN (SELECT value FROM json_each(@ids)) AND ${SEEN}`
    );
    this.#openOfProject = db.prepare<[number], TaskRow>(
      `SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.project_id = ? AND t.set_aside IS NULL
       AND s.phase NOT IN ('finished', 'closed') ORDER BY t.id`
    );
    this.#standing = db.prepare<[Record<string, string | number>], { id: number }>(
      `SELECT t.id FROM task t JOIN status s ON s.id = t.status_id WHERE t.id > @after AND t.id <= @until
       AND s.phase IN (SELECT value FROM json_each(@phases))
       AND coalesce(t.set_aside, '') IN (SELECT value FROM json_each(@asides)) ORDER BY t.id`
    );
    this.#highest = db.prepare<[], { id: number | null }>('SELECT max(id) AS id FROM task');
    this.#listed = db.prepare<[SetAside | null], { count: number }>(
      'SELECT count(*) AS count FROM task WHERE set_aside IS ?'
    );
    this.#total = db.prepare<[], { count: number }>('SELECT count(*) AS count FROM task');
  }

  byId(id: number): Task | null {
    const row = this.#byId.get(id);
    return row ? toTask(row) : null;
  }

  /** Those of some tasks that there are. */
  byIds(ids: readonly number[]): Map<number, Task> {
    return new Map(this.#byIds.all(JSON.stringify(ids)).map((row) => [row.id, toTask(row)]));
  }

  idsWithStatus(statusId: number): number[] {
    return this.#withStatus.all(statusId).map(({ id }) => id);
  }

  /** How many open tasks somebody owns first, set aside or not. */
  openOf(personId: number): number {
    return this.#openOf.get(personId)!.count;
  }

  /** Those of some tasks that are there. */
  there(ids: readonly number[]): number[] {
    return this.#there.all(JSON.stringify(ids)).map(({ id }) => id);
  }

  /** Those of some tasks that somebody sees. */
  seen(ids: readonly number[], sight: Sight): Set<number> {
    const rows = this.#seen.all({ ids: JSON.stringify(ids), ...sightParameters(sight) });
    return new Set(rows.map(({ id }) => id));
  }

  /** Every task that somebody may know of with what tells it from others without a key: its title, project and due date. */
  likenesses(
    personId: number
  ): { id: number; name: string; projectId: number | null; dueDate: string | null }[] {
    return this.#likenesses.all(personId);
  }

  idByImportKey(key: string): number | null {
    return this.#byKey.get(key)?.id ?? null;
  }

  /** The row that says which status a task has now. */
  openStatusSpan(taskId: number): number | null {
    return this.#openSpan.get(taskId)?.id ?? null;
  }

  /** Tasks by id, in `(after, until]`, of some phases that stand in the list (null) or apart from it. */
  idsStanding(
    phases: readonly Phase[],
    asides: readonly (SetAside | null)[],
    after: number,
    until: number
  ): number[] {
    const asked = { phases: JSON.stringify(phases), asides: JSON.stringify(asides.map((one) => one ?? '')) };
    return this.#standing.all({ ...asked, after, until }).map(({ id }) => id);
  }

  /** The highest id; 0 when there is none. */
  highestId(): number {
    return this.#highest.get()!.id ?? 0;
  }

  /** How many stand in the list (null), or apart from it. */
  countStanding(aside: SetAside | null): number {
    return this.#listed.get(aside)!.count;
  }

  count(): number {
    return this.#total.get()!.count;
  }

  /** Open tasks of a project. */
  openOfProject(projectId: number | null): Task[] {
    return projectId === null ? [] : this.#openOfProject.all(projectId).map(toTask);
  }

  /** Its subtasks, by due date. */
  childrenOf(id: number): Task[] {
    return this.#children.all(id).map(toTask);
  }

  /** Tasks that come back on a date, whether or not they are finished. */
  idsRenewedByCalendar(): number[] {
    return this.#byCalendar.all().map(({ id }) => id);
  }

  idsParked(): number[] {
    return this.#parked.all().map(({ id }) => id);
  }

  /** Owners besides the first. */
  otherOwnersOf(id: number): number[] {
    return this.#others.all(id).map(({ personId }) => personId);
  }

  /** What the core computes from, for every task. */
  facts(): TaskFacts[] {
    return this.#facts.read();
  }

  /** The same of the tasks from one id to another, both included. */
  factsIn(first: number, last: number): TaskFacts[] {
    return this.#factsIn.read(first, last);
  }

  /** The same of those of some tasks that there are, by id. */
  factsAmong(ids: readonly number[]): TaskFacts[] {
    return this.#factsAmong.read(JSON.stringify(ids));
  }

  factsOf(id: number): TaskFacts | null {
    return this.factsIn(id, id)[0] ?? null;
  }
}

/** The parameters of `SEEN`. */
export function sightParameters({ personId, all, reports }: Sight): Record<string, unknown> {
  return { viewerId: personId, seesAll: all ? 1 : 0, reports: JSON.stringify(reports) };
}

export function toTask(row: TaskRow): Task {
  return {
    id: row.id,
    name: row.name,
    description: row.description,
    projectId: row.project_id,
    ownerId: row.owner_id,
    statusId: row.status_id,
    status: row.status,
    phase: row.phase,
    priority: row.priority,
    due: stored(row.due_date, row.due_time, row.due_zone),
    originalDue: stored(row.original_due_date, row.original_due_time, row.original_due_zone),
    start: stored(row.start_date, row.start_time, row.start_zone),
    createdAt: row.created_at,
    finishedAt: row.finished_at,
    round: row.round,
    slips: row.slips,
    private: row.private === 1,
    createdBy: row.created_by,
    touchedAt: row.touched_at,
    remindOn: stored(row.remind_date, row.remind_time, row.remind_zone),
    percent: row.percent,
    parentId: row.parent_id,
    sectionId: row.section_id,
    logTime: row.log_time === 1,
    keep: row.keep === 1,
    setAside: row.set_aside,
    setAsideAt: row.set_aside_at,
    reviewDate: row.review_date,
    formerOwnerId: row.former_owner_id,
    parkedBy: row.parked_by,
    renewal: toRenewal(row)
  };
}

function toRenewal(row: TaskRow): TaskRenewal | null {
  if (row.rhythm === null || row.renew_from === null) return null;
  return {
    rhythm: JSON.parse(row.rhythm) as StoredRhythm,
    from: row.renew_from,
    closedDay: row.renew_closed_day,
    copy: row.renew_copy === 1,
    rhythmOrigin: row.rhythm_origin,
    rhythmDate: row.rhythm_date
  };
}
