import type { Silence, TaskFacts } from '../../core/forecast/facts.ts';
import type { RenewFrom } from '../../core/recurrence/renewal.ts';
import type { ClosedDayRule } from '../../core/ring/lead.ts';
import type { SetAside, StoredRhythm } from '../../core/task/model.ts';
import type { Phase, Priority, Unseen } from '../../core/rule/model.ts';
import { taskReminder, type ReminderTiming } from '../../core/forecast/reminders.ts';
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

interface SilenceRow extends Silence {
  taskId: number;
}

/** One step on the way from a task that a rule made to the one that people made. */
interface MadeRow {
  taskId: number;
  ruleId: number;
  /** Of what it was made. */
  of: string | null;
}

interface ReminderRow {
  id: number;
  taskId: number;
  personId: number | null;
  timing: string;
}

type FactsRow = TaskRow & { aside: Unseen | null; register: number; acknowledged: number };

export interface TaskRow {
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
  touched_at: number;
  remind_date: string | null;
  remind_time: string | null;
  remind_zone: string | null;
  percent: number | null;
  parent_id: number | null;
  section_id: number | null;
  log_time: number;
  keep: number;
  set_aside: SetAside | null;
  set_aside_at: number | null;
  review_date: string | null;
  former_owner_id: number | null;
  parked_by: number | null;
  rhythm: string | null;
  renew_from: RenewFrom | null;
  renew_closed_day: ClosedDayRule;
  renew_copy: number;
  rhythm_origin: string | null;
  rhythm_date: string | null;
}

/** Which tasks somebody sees. A private one is seen by its owner alone; without an owner by whoever made it. */
export interface Sight {
  personId: number;
  /** All tasks that are not somebody else's private ones. */
  all: boolean;
  /** Everybody under a manager, whose tasks they see. */
  reports: readonly number[];
}

export const TASK_COLUMNS = `t.*, s.name AS status, s.phase,
  (SELECT count(*) FROM slip WHERE slip.task_id = t.id AND slip.round = t.round) AS slips`;
export const FROM_TASK = 'FROM task t JOIN status s ON s.id = t.status_id';
const FACT_COLUMNS = `t.id, t.name, t.project_id, t.owner_id, t.due_date, t.due_time, t.due_zone,
  t.start_date, t.start_time, t.start_zone, t.remind_date, t.remind_time, t.remind_zone, t.priority, t.round, t.private, s.phase,
  CASE WHEN t.set_aside IS NOT NULL THEN t.set_aside WHEN coalesce(p.state, 'open') <> 'open' THEN 'called off' END AS aside, coalesce(p.register, 0) AS register,
  EXISTS (SELECT 1 FROM promise WHERE promise.task_id = t.id AND promise.state IN ('open', 'over')) AS acknowledged`;
const FROM_FACTS = `${FROM_TASK} LEFT JOIN project p ON p.id = t.project_id`;
/**
 * What somebody sees: their own, what they made, their projects' (those of which they are a member, or in which they have a task),
 * their reports'; nobody another person's private task. `t` is the task; its parameters are those of `sightParameters`.
 */
export const SEEN = `
  (t.private = 0 OR coalesce(t.owner_id, t.created_by) = @viewerId)
  AND (@seesAll = 1 OR t.owner_id = @viewerId OR t.created_by = @viewerId
    OR t.owner_id IN (SELECT value FROM json_each(@reports))
    OR t.id IN (SELECT task_id FROM co_owner WHERE person_id = @viewerId)
    OR t.project_id IN (SELECT project_id FROM project_member WHERE person_id = @viewerId)
    OR t.project_id IN (SELECT mine.project_id FROM task mine WHERE mine.owner_id = @viewerId))`;

export class TaskStore {
  readonly #byId;
  readonly #facts;
  readonly #factsIn;
  readonly #others;
  readonly #othersIn;
  readonly #reminders;
  readonly #remindersIn;
  readonly #silences;
  readonly #silencesIn;
  readonly #children;
  readonly #byCalendar;
  readonly #parked;
  readonly #made;
  readonly #byKey;
  readonly #total;
  readonly #openSpan;
  readonly #seen;
  readonly #withStatus;
  readonly #openOfProject;
  readonly #standing;
  readonly #highest;
  readonly #listed;

  constructor(db: Db) {
    this.#byId = db.prepare<[number], TaskRow>(`SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.id = ?`);
    this.#facts = db.prepare<[], FactsRow>(`SELECT ${FACT_COLUMNS} ${FROM_FACTS} ORDER BY t.id`);
    this.#factsIn = db.prepare<[number, number], FactsRow>(
      `SELECT ${FACT_COLUMNS} ${FROM_FACTS} WHERE t.id BETWEEN ? AND ? ORDER BY t.id`
    );
    const owner = 'SELECT task_id AS taskId, person_id AS personId FROM co_owner';
    this.#others = db.prepare<[], { taskId: number; personId: number }>(
      `${owner} ORDER BY task_id, position, id`
    );
    this.#othersIn = db.prepare<[number, number], { taskId: number; personId: number }>(
      `${owner} WHERE task_id BETWEEN ? AND ? ORDER BY task_id, position, id`
    );
    const reminder = 'SELECT id, task_id AS taskId, person_id AS personId, timing FROM reminder';
    this.#reminders = db.prepare<[], ReminderRow>(`${reminder} ORDER BY task_id, id`);
    this.#remindersIn = db.prepare<[number, number], ReminderRow>(
      `${reminder} WHERE task_id BETWEEN ? AND ? ORDER BY task_id, id`
    );
    const silence =
      'SELECT task_id AS taskId, person_id AS personId, from_at AS "from", until_at AS until FROM no_reminder';
    this.#silences = db.prepare<[], SilenceRow>(`${silence} ORDER BY task_id, id`);
    this.#silencesIn = db.prepare<[number, number], SilenceRow>(
      `${silence} WHERE task_id BETWEEN ? AND ? ORDER BY task_id, id`
    );
    this.#byCalendar = db.prepare<[], { id: number }>(
      `SELECT id FROM task WHERE rhythm IS NOT NULL AND renew_from = 'calendar' AND set_aside IS NULL`
    );
    this.#made = db.prepare<[number, number], MadeRow>(
      `WITH RECURSIVE line (task_id, rule_id, of_id, depth) AS (
         SELECT made_task_id, rule_id, task_id, 1 FROM rule_once WHERE made_task_id BETWEEN ? AND ?
         UNION ALL
         SELECT line.task_id, o.rule_id, o.task_id, depth + 1 FROM line JOIN rule_once o ON o.made_task_id = line.of_id
         WHERE depth < 100
       )
       SELECT task_id AS taskId, rule_id AS ruleId, name AS "of" FROM line LEFT JOIN task ON task.id = of_id ORDER BY task_id, depth`
    );
    this.#parked = db.prepare<[], { id: number }>(`SELECT id FROM task WHERE set_aside = 'parked'`);
    this.#children = db.prepare<[number], TaskRow>(
      `SELECT ${TASK_COLUMNS} ${FROM_TASK} WHERE t.parent_id = ? ORDER BY coalesce(t.due_date, '9999'), t.id`
    );
    this.#byKey = db.prepare<[string], { id: number }>('SELECT id FROM task WHERE import_key = ?');
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
    return this.#othersIn.all(id, id).map(({ personId }) => personId);
  }

  /** What the core computes from, for every task. */
  facts(): TaskFacts[] {
    return toFactsOfAll(
      this.#facts.all(),
      this.#others.all(),
      this.#reminders.all(),
      this.#silences.all(),
      this.#made.all(0, Number.MAX_SAFE_INTEGER)
    );
  }

  /** The same of the tasks from one id to another, both included. */
  factsIn(first: number, last: number): TaskFacts[] {
    return toFactsOfAll(
      this.#factsIn.all(first, last),
      this.#othersIn.all(first, last),
      this.#remindersIn.all(first, last),
      this.#silencesIn.all(first, last),
      this.#made.all(first, last)
    );
  }

  factsOf(id: number): TaskFacts | null {
    return this.factsIn(id, id)[0] ?? null;
  }
}

function toFactsOfAll(
  rows: readonly FactsRow[],
  allOthers: readonly { taskId: number; personId: number }[],
  allReminders: readonly ReminderRow[],
  allSilences: readonly SilenceRow[],
  allMade: readonly MadeRow[]
): TaskFacts[] {
  const [others, reminders] = [groupedBy(allOthers), groupedBy(allReminders)];
  const silences = groupedBy(allSilences);
  const made = groupedBy(allMade);
  return rows.map((row) =>
    toFacts(
      row,
      others.get(row.id) ?? [],
      reminders.get(row.id) ?? [],
      silences.get(row.id) ?? [],
      made.get(row.id) ?? []
    )
  );
}

function groupedBy<T extends { taskId: number }>(rows: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const row of rows) {
    const group = groups.get(row.taskId);
    if (group) group.push(row);
    else groups.set(row.taskId, [row]);
  }
  return groups;
}

/** The parameters of `SEEN`. */
export function sightParameters({ personId, all, reports }: Sight): Record<string, unknown> {
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

function toFacts(
  row: FactsRow,
  others: readonly { personId: number }[],
  reminders: readonly ReminderRow[],
  silences: readonly SilenceRow[],
  made: readonly MadeRow[]
): TaskFacts {
  const due = stored(row.due_date, row.due_time, row.due_zone);
  const start = stored(row.start_date, row.start_time, row.start_zone);
  const remindOn = stored(row.remind_date, row.remind_time, row.remind_zone);
  return {
    id: row.id,
    name: row.name,
    projectId: row.project_id,
    ownerId: row.owner_id,
    otherOwnerIds: others.length === 0 ? NONE : others.map(({ personId }) => personId),
    due: due && toMoment(due),
    start: start && toMoment(start),
    remindOn: remindOn && toMoment(remindOn),
    phase: row.phase,
    priority: row.priority,
    round: row.round,
    private: row.private === 1,
    aside: row.aside,
    register: row.register === 1,
    acknowledged: row.acknowledged === 1,
    made:
      made.length === 0
        ? null
        : {
            ruleIds: made.map(({ ruleId }) => ruleId),
            origin: made.findLast(({ of }) => of !== null)?.of ?? row.name
          },
    silences:
      silences.length === 0 ? NONE : silences.map(({ personId, from, until }) => ({ personId, from, until })),
    reminders:
      reminders.length === 0
        ? NONE
        : reminders.map(({ id, personId, timing }, order) =>
            taskReminder(id, personId, JSON.parse(timing) as ReminderTiming, order)
          )
  };
}

const NONE: readonly never[] = [];
