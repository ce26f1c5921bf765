import type { ReminderTiming } from '../../core/forecast/facts/reminders.ts';
import type { Db } from '../db/open.ts';
import type { ChangeHead } from './change-model.ts';
import { SEEN, sightParameters, type Sight } from './tasks.ts';

export interface Comment {
  id: number;
  taskId: number;
  personId: number | null;
  at: number;
  text: string;
}

export interface TimeEntry {
  id: number;
  taskId: number;
  personId: number | null;
  at: number;
  minutes: number;
  note: string;
}

export interface TaskLink {
  id: number;
  taskId: number;
  toTaskId: number | null;
  toProjectId: number | null;
}

export interface Reminder {
  id: number;
  taskId: number;
  /** Whose it is; null for whoever owns the task. */
  personId: number | null;
  timing: ReminderTiming;
  setBy: number | null;
}

/** A round of a recurring task that is over. */
export interface TaskRound {
  round: number;
  due: string | null;
  /** Null when it was not finished. */
  finishedAt: number | null;
  /** Dates of the rhythm that were passed over after it. */
  skipped: string[];
}

export interface Slip {
  at: number;
  byId: number | null;
  fromDue: string;
  toDue: string;
  round: number;
}

/** One change to a task: who, when, and the columns before and after. */
export interface TaskChange extends Pick<ChangeHead, 'at' | 'actorId' | 'source' | 'title'> {
  changeId: number;
  table: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
  /** Of the message whose link was pressed: what it said, and when it left. */
  subject: string | null;
  leftAt: number | null;
}

/** What hangs on a task: tags, comments, time, links, reminders, rounds. */
export class TaskPartStore {
  readonly #tags;
  readonly #allTags;
  readonly #comments;
  readonly #comment;
  readonly #times;
  readonly #links;
  readonly #linksTo;
  readonly #reminders;
  readonly #reminder;
  readonly #rounds;
  readonly #slips;
  readonly #record;
  readonly #tagsOfMany;
  readonly #subtasksOfMany;
  readonly #ids;

  constructor(db: Db) {
    this.#tags = db.prepare<[number], { id: number; name: string }>(
      'SELECT id, name FROM task_tag WHERE task_id = ? ORDER BY lower(name)'
    );
    this.#allTags = db.prepare<[Record<string, unknown>], { name: string }>(
      `SELECT min(g.name) AS name FROM task_tag g JOIN task t ON t.id = g.task_id WHERE ${SEEN}
       GROUP BY lower(g.name) ORDER BY lower(g.name) LIMIT 500`
    );
    const comment = 'SELECT id, task_id AS taskId, person_id AS personId, at, text FROM comment';
    this.#comments = db.prepare<[number], Comment>(`${comment} WHERE task_id = ? ORDER BY at, id`);
    this.#comment = db.prepare<[number], Comment>(`${comment} WHERE id = ?`);
    this.#times = db.prepare<[number], TimeEntry>(
      'SELECT id, task_id AS taskId, person_id AS personId, at, minutes, note FROM time_entry WHERE task_id = ? ORDER BY at, id'
    );
    const link =
      'SELECT id, task_id AS taskId, to_task_id AS toTaskId, to_project_id AS toProjectId FROM task_link';
    this.#links = db.prepare<[{ id: number }], TaskLink>(
      `${link} WHERE task_id = @id OR to_task_id = @id ORDER BY id`
    );
    this.#linksTo = db.prepare<[number], TaskLink>(`${link} WHERE to_project_id = ? ORDER BY id`);
    const reminder =
      'SELECT id, task_id AS taskId, person_id AS personId, timing, set_by AS setBy FROM reminder';
    this.#reminders = db.prepare<[number], Omit<Reminder, 'timing'> & { timing: string }>(
      `${reminder} WHERE task_id = ? ORDER BY id`
    );
    this.#reminder = db.prepare<[number], Omit<Reminder, 'timing'> & { timing: string }>(
      `${reminder} WHERE id = ?`
    );
    this.#rounds = db.prepare<[number], Omit<TaskRound, 'skipped'> & { skipped: string }>(
      'SELECT round, due, finished_at AS finishedAt, skipped FROM task_round WHERE task_id = ? ORDER BY round DESC, id DESC'
    );
    this.#slips = db.prepare<[number], Slip>(
      'SELECT at, by_id AS byId, from_due AS fromDue, to_due AS toDue, round FROM slip WHERE task_id = ? ORDER BY id DESC'
    );
    this.#tagsOfMany = db.prepare<[string], { taskId: number; name: string }>(
      `SELECT task_id AS taskId, name FROM task_tag WHERE task_id IN (SELECT value FROM json_each(?)) ORDER BY lower(name)`
    );
    this.#subtasksOfMany = db.prepare<[string], { taskId: number; all: number; done: number }>(
      `SELECT t.parent_id AS taskId, count(*) AS "all", sum(s.phase IN ('finished', 'closed')) AS done
       FROM task t JOIN status s ON s.id = t.status_id
       WHERE t.parent_id IN (SELECT value FROM json_each(?)) AND +t.set_aside IS NULL GROUP BY t.parent_id`
    );
    this.#record = db.prepare<
      [{ id: number; limit: number }],
      Omit<TaskChange, 'before' | 'after'> & { before: string | null; after: string | null }
    >(
      `SELECT c.id AS changeId, c.at, c.actor_id AS actorId, c.source, c.title, r.table_name AS "table", r.before, r.after,
       m.subject, m.leaves_at AS leftAt
       FROM change_row r JOIN change c ON c.id = r.change_id LEFT JOIN message m ON m.id = c.message_id
       WHERE r.table_name = 'task' AND r.row_id = @id ORDER BY r.id DESC LIMIT @limit`
    );
    this.#ids = {
      task_tag: db.prepare<[number], { id: number }>('SELECT id FROM task_tag WHERE task_id = ?'),
      co_owner: db.prepare<[number], { id: number }>('SELECT id FROM co_owner WHERE task_id = ?'),
      reminder: db.prepare<[number], { id: number }>('SELECT id FROM reminder WHERE task_id = ?'),
      promise: db.prepare<[number], { id: number }>('SELECT id FROM promise WHERE task_id = ?'),
      placement: db.prepare<[number], { id: number }>('SELECT id FROM placement WHERE task_id = ?'),
      comment: db.prepare<[number], { id: number }>('SELECT id FROM comment WHERE task_id = ?'),
      time_entry: db.prepare<[number], { id: number }>('SELECT id FROM time_entry WHERE task_id = ?'),
      field_value: db.prepare<[number], { id: number }>('SELECT id FROM field_value WHERE task_id = ?'),
      slip: db.prepare<[number], { id: number }>('SELECT id FROM slip WHERE task_id = ?'),
      status_span: db.prepare<[number], { id: number }>('SELECT id FROM status_span WHERE task_id = ?'),
      task_round: db.prepare<[number], { id: number }>('SELECT id FROM task_round WHERE task_id = ?'),
      task_link: db.prepare<[number], { id: number }>('SELECT id FROM task_link WHERE task_id = ?'),
      contact_link: db.prepare<[number], { id: number }>('SELECT id FROM contact_link WHERE task_id = ?')
    };
  }

  tags(taskId: number): { id: number; name: string }[] {
    return this.#tags.all(taskId);
  }

  /** Every tag of a task that somebody sees, each once however it is written. */
  allTags(sight: Sight): string[] {
    return this.#allTags.all(sightParameters(sight)).map(({ name }) => name);
  }

  /** Tags and subtasks of some tasks, for a page of them at once. */
  hangingOn(taskIds: readonly number[]): {
    tags: Map<number, string[]>;
    subtasks: Map<number, { all: number; done: number }>;
  } {
    const ids = JSON.stringify(taskIds);
    const tags = new Map<number, string[]>();
    for (const { taskId, name } of this.#tagsOfMany.all(ids))
      tags.set(taskId, [...(tags.get(taskId) ?? []), name]);
    const subtasks = this.#subtasksOfMany
      .all(ids)
      .map(({ taskId, all, done }) => [taskId, { all, done }] as const);
    return { tags, subtasks: new Map(subtasks) };
  }

  comments(taskId: number): Comment[] {
    return this.#comments.all(taskId);
  }

  comment(id: number): Comment | null {
    return this.#comment.get(id) ?? null;
  }

  times(taskId: number): TimeEntry[] {
    return this.#times.all(taskId);
  }

  minutesLogged(taskId: number): number {
    return this.times(taskId).reduce((sum, { minutes }) => sum + minutes, 0);
  }

  /** Links from a task and to it. */
  links(taskId: number): TaskLink[] {
    return this.#links.all({ id: taskId });
  }

  /** Tasks connected with a project to which they do not belong. */
  linksToProject(projectId: number): TaskLink[] {
    return this.#linksTo.all(projectId);
  }

  reminders(taskId: number): Reminder[] {
    return this.#reminders.all(taskId).map(toReminder);
  }

  reminder(id: number): Reminder | null {
    const row = this.#reminder.get(id);
    return row ? toReminder(row) : null;
  }

  /** Rounds that are over, the latest first. */
  rounds(taskId: number): TaskRound[] {
    return this.#rounds
      .all(taskId)
      .map(({ skipped, ...round }) => ({ ...round, skipped: JSON.parse(skipped) as string[] }));
  }

  slips(taskId: number): Slip[] {
    return this.#slips.all(taskId);
  }

  /** The latest changes of a task's own row. */
  record(taskId: number, limit: number): TaskChange[] {
    return this.#record.all({ id: taskId, limit }).map(({ before, after, ...rest }) => ({
      ...rest,
      before: before === null ? null : (JSON.parse(before) as Record<string, unknown>),
      after: after === null ? null : (JSON.parse(after) as Record<string, unknown>)
    }));
  }

  /** Rows of one table that belong to a task. */
  idsOf(table: PartTable, taskId: number): number[] {
    return this.#ids[table].all(taskId).map(({ id }) => id);
  }
}

/** Tables whose rows belong to a task, and go with it when it is removed for good. */
export const PART_TABLES = [
  'task_tag',
  'co_owner',
  'reminder',
  'promise',
  'placement',
  'comment',
  'time_entry',
  'field_value',
  'slip',
  'status_span',
  'task_round',
  'task_link',
  'contact_link'
] as const;
export type PartTable = (typeof PART_TABLES)[number];

function toReminder({ timing, ...row }: Omit<Reminder, 'timing'> & { timing: string }): Reminder {
  return { ...row, timing: JSON.parse(timing) as ReminderTiming };
}
