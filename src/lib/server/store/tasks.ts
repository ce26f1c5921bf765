import type { TaskFacts } from '../../core/forecast/facts.ts';
import type { Phase, Priority } from '../../core/rule/model.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Moment } from '../../core/time/instant.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import type { Db } from '../db/open.ts';

/** A date, or a date with time and zone, as stored: three columns, never one instant. */
export interface StoredMoment {
  date: string;
  time: string | null;
  zone: string | null;
}

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
}

interface TaskRow {
  id: number;
  name: string;
  description: string;
  project_id: number | null;
  owner_id: number | null;
  status_id: number;
  status: string;
  phase: Phase;
  priority: Priority;
  due_date: string | null;
  due_time: string | null;
  due_zone: string | null;
  original_due_date: string | null;
  original_due_time: string | null;
  original_due_zone: string | null;
  start_date: string | null;
  start_time: string | null;
  start_zone: string | null;
  created_at: number;
  finished_at: number | null;
  round: number;
  slips: number;
  private: number;
  created_by: number | null;
}

/** Which tasks somebody sees. A private one is seen by its owner alone; without an owner by whoever made it. */
export interface Sight {
  personId: number;
  /** All tasks that are not somebody else's private ones. */
  all: boolean;
  /** Everybody under a manager, whose tasks they see. */
  reports: readonly number[];
}

export interface TaskFilter {
  /** Part of the name, in any case. */
  text?: string;
  projectId?: number;
  ownerId?: number;
  open?: boolean;
  /** Only these tasks. */
  ids?: readonly number[];
  /** Keyset: rows after this one in the order of the list. */
  after?: { dueDate: string; id: number };
  limit: number;
  /** Who asks. */
  sight: Sight;
}

const COLUMNS = `t.*, s.name AS status, s.phase, (SELECT count(*) FROM slip WHERE slip.task_id = t.id) AS slips`;
const FROM = 'FROM task t JOIN status s ON s.id = t.status_id';
const FACT_COLUMNS = `t.id, t.name, t.project_id, t.owner_id, t.due_date, t.due_time, t.due_zone,
  t.start_date, t.start_time, t.start_zone, t.priority, t.round, t.private, s.phase`;
/** Undated tasks come last, not first. */
const ORDER_DATE = `coalesce(t.due_date, '9999')`;

/**
 * What somebody sees: their own, what they made, their projects' (those in which they have a task), their reports'; nobody another
 * person's private task.
 */
const SEEN = `
  (t.private = 0 OR coalesce(t.owner_id, t.created_by) = @viewerId)
  AND (@seesAll = 1 OR t.owner_id = @viewerId OR t.created_by = @viewerId
    OR t.owner_id IN (SELECT value FROM json_each(@reports))
    OR t.project_id IN (SELECT mine.project_id FROM task mine WHERE mine.owner_id = @viewerId))`;

const FILTER = `${SEEN}
  AND (@text IS NULL OR instr(lower(t.name), lower(@text)) > 0)
  AND (@projectId IS NULL OR t.project_id = @projectId)
  AND (@ownerId IS NULL OR t.owner_id = @ownerId)
  AND (@open IS NULL OR (s.phase NOT IN ('finished', 'closed')) = @open)
  AND (@ids IS NULL OR t.id IN (SELECT value FROM json_each(@ids)))`;

export class TaskStore {
  readonly #byId;
  readonly #page;
  readonly #count;
  readonly #facts;
  readonly #factsOf;
  readonly #byKey;
  readonly #total;
  readonly #openSpan;
  readonly #seen;
  readonly #withStatus;

  constructor(db: Db) {
    this.#byId = db.prepare<[number], TaskRow>(`SELECT ${COLUMNS} ${FROM} WHERE t.id = ?`);
    this.#page = db.prepare<[Record<string, unknown>], TaskRow>(
      `SELECT ${COLUMNS} ${FROM} WHERE ${FILTER}
       AND (@afterDate IS NULL OR (${ORDER_DATE}, t.id) > (@afterDate, @afterId))
       ORDER BY ${ORDER_DATE}, t.id LIMIT @limit`
    );
    this.#count = db.prepare<[Record<string, unknown>], { count: number }>(
      `SELECT count(*) AS count ${FROM} WHERE ${FILTER}`
    );
    this.#facts = db.prepare<[], TaskRow>(`SELECT ${FACT_COLUMNS} ${FROM} ORDER BY t.id`);
    this.#factsOf = db.prepare<[number], TaskRow>(`SELECT ${FACT_COLUMNS} ${FROM} WHERE t.id = ?`);
    this.#byKey = db.prepare<[string], { id: number }>('SELECT id FROM task WHERE import_key = ?');
    this.#openSpan = db.prepare<[number], { id: number }>(
      'SELECT id FROM status_span WHERE task_id = ? AND until_at IS NULL'
    );
    this.#withStatus = db.prepare<[number], { id: number }>('SELECT id FROM task WHERE status_id = ?');
    this.#seen = db.prepare<[Record<string, unknown>], { id: number }>(
      `SELECT t.id FROM task t WHERE t.id IN (SELECT value FROM json_each(@ids)) AND ${SEEN}`
    );
    this.#total = db.prepare<[], { count: number }>('SELECT count(*) AS count FROM task');
  }

  byId(id: number): Task | null {
    const row = this.#byId.get(id);
    return row ? toTask(row) : null;
  }

  idsWithStatus(statusId: number): number[] {
    return this.#withStatus.all(statusId).map(({ id }) => id);
  }

  /** Those of some tasks that somebody sees. */
  seen(ids: readonly number[], sight: Sight): Set<number> {
    const rows = this.#seen.all({ ids: JSON.stringify(ids), ...sightParameters(sight) });
    return new Set(rows.map(({ id }) => id));
  }

  idByImportKey(key: string): number | null {
    return this.#byKey.get(key)?.id ?? null;
  }

  /** The row that says which status a task has now. */
  openStatusSpan(taskId: number): number | null {
    return this.#openSpan.get(taskId)?.id ?? null;
  }

  count(): number {
    return this.#total.get()!.count;
  }

  /** One page of the list by due date, undated last, and how many the filter finds in all. */
  page(filter: TaskFilter): { tasks: Task[]; total: number } {
    const parameters = {
      text: filter.text || null,
      projectId: filter.projectId ?? null,
      ownerId: filter.ownerId ?? null,
      open: filter.open === undefined ? null : filter.open ? 1 : 0,
      ids: filter.ids ? JSON.stringify(filter.ids) : null,
      ...sightParameters(filter.sight)
    };
    const after = {
      afterDate: filter.after?.dueDate ?? null,
      afterId: filter.after?.id ?? 0,
      limit: filter.limit
    };
    return {
      tasks: this.#page.all({ ...parameters, ...after }).map(toTask),
      total: this.#count.get(parameters)!.count
    };
  }

  /** What the core computes from, for every task. */
  facts(): TaskFacts[] {
    return this.#facts.all().map(toFacts);
  }

  factsOf(id: number): TaskFacts | null {
    const row = this.#factsOf.get(id);
    return row ? toFacts(row) : null;
  }
}

function sightParameters({ personId, all, reports }: Sight): Record<string, unknown> {
  return { viewerId: personId, seesAll: all ? 1 : 0, reports: JSON.stringify(reports) };
}

/** The moment that three columns stand for. */
export function toMoment(stored: StoredMoment): Moment {
  return {
    day: parseDay(stored.date),
    minute: stored.time === null ? null : parseTimeOfDay(stored.time),
    zone: stored.zone === null ? null : zoneNamed(stored.zone)
  };
}

function stored(date: string | null, time: string | null, zone: string | null): StoredMoment | null {
  return date === null ? null : { date, time, zone };
}

function toTask(row: TaskRow): Task {
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
    createdBy: row.created_by
  };
}

function toFacts(row: TaskRow): TaskFacts {
  const due = stored(row.due_date, row.due_time, row.due_zone);
  const start = stored(row.start_date, row.start_time, row.start_zone);
  return {
    id: row.id,
    name: row.name,
    projectId: row.project_id,
    ownerId: row.owner_id,
    due: due && toMoment(due),
    start: start && toMoment(start),
    phase: row.phase,
    priority: row.priority,
    round: row.round,
    private: row.private === 1
  };
}
