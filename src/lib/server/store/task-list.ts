import type { Statement } from 'better-sqlite3';
import type { Phase, Priority, SetAside } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';
import { FROM_TASK, TASK_COLUMNS, type TaskRow } from './task-row.ts';
import { SEEN, sightParameters, toTask, type Sight, type Task } from './tasks.ts';

/** Which tasks a list holds. What is absent does not matter. */
export interface TaskFilter {
  /** Words of the name, the description or a comment, the last of them perhaps unfinished. */
  text?: string;
  projectId?: number | null;
  sectionId?: number;
  /** One of its owners; null for those without one. */
  ownerId?: number | null;
  statusId?: number;
  phases?: readonly Phase[];
  priority?: Priority;
  tag?: string;
  /** Due dates, both included. */
  dueFrom?: string;
  dueUntil?: string;
  undated?: boolean;
  /** Comes back after it is finished. */
  recurring?: boolean;
  /** Parked, archived or binned ones; absent: those in the list. `any`: all of them. */
  aside?: SetAside | 'any';
  /** Only these tasks. */
  ids?: readonly number[];
  /** Who asks. */
  sight: Sight;
}

/** What a list can be put in order by, and grouped by. */
const KEYS = {
  due: [`coalesce(t.due_date, '9999')`, `coalesce(t.due_time, '99')`],
  start: [`coalesce(t.start_date, '9999')`],
  name: ['lower(t.name)'],
  owner: [`coalesce((SELECT lower(o.name) FROM person o WHERE o.id = t.owner_id), '~')`],
  project: [`coalesce((SELECT lower(j.name) FROM project j WHERE j.id = t.project_id), '~')`],
  section: [`coalesce((SELECT c.position FROM section c WHERE c.id = t.section_id), -1)`],
  status: ['s.position'],
  priority: [`CASE t.priority WHEN 'pressing' THEN 0 WHEN 'high' THEN 1 WHEN 'ordinary' THEN 2 ELSE 3 END`],
  created: ['t.created_at'],
  touched: ['t.touched_at'],
  slips: ['(SELECT count(*) FROM slip WHERE slip.task_id = t.id AND slip.round = t.round)']
} as const satisfies Record<string, readonly string[]>;
export type SortKey = keyof typeof KEYS;
export const SORT_KEYS = Object.keys(KEYS) as SortKey[];

/** What a list can be grouped by. */
export const GROUP_KEYS = ['due', 'owner', 'project', 'section', 'status', 'priority'] as const;
export type GroupKey = (typeof GROUP_KEYS)[number];

/** What the tasks of a group have in common. */
const COMMON: Record<GroupKey, string> = {
  due: 't.due_date',
  owner: 't.owner_id',
  project: 't.project_id',
  section: 't.section_id',
  status: 't.status_id',
  priority: 't.priority'
};

export interface TaskOrder {
  sort: SortKey;
  down: boolean;
  group: GroupKey | null;
}

/** Where a page ends: the keys of its last row. */
export type TaskCursor = readonly (string | number)[];

interface Key {
  sql: string;
  down: boolean;
}

/** Lists of tasks by any filter and in any order, page by page from a key on, so that no page costs more than the first. */
export class TaskListStore {
  readonly #db: Db;
  readonly #prepared = new Map<string, Statement<[Record<string, unknown>]>>();

  constructor(db: Db) {
    this.#db = db;
  }

  /** One page in order, and the cursor of the page after it; null when this is the last. */
  page(
    filter: TaskFilter,
    order: TaskOrder,
    cursor: TaskCursor | null,
    limit: number
  ): { tasks: Task[]; next: TaskCursor | null } {
    const keys = keysOf(order);
    // One of another order, or edited by hand, starts from the beginning.
    const after = cursor?.length === keys.length ? cursor : null;
    const { sql, parameters } = where(filter);
    const beyond = after === null ? '' : ` AND ${beyondSql(keys)}`;
    const columns = keys.map(({ sql: key }, i) => `${key} AS key_${i}`).join(', ');
    const by = keys.map(({ sql: key, down }) => `${key}${down ? ' DESC' : ''}`).join(', ');
    const outer = keys.map(({ down }, i) => `found.key_${i}${down ? ' DESC' : ''}`).join(', ');
    // Sorted by their keys alone; whole rows are read only for those that are shown.
    const rows = this.#prepare(
      `SELECT ${TASK_COLUMNS}, found.* ${FROM_TASK} JOIN (
         SELECT t.id AS found_id, ${columns} ${inOrder(filter, order) ? FROM_BY_DUE : FROM_TASK} WHERE ${sql}${beyond} ORDER BY ${by} LIMIT @limit
       ) found ON found.found_id = t.id ORDER BY ${outer}`
    ).all({
      ...parameters,
      ...Object.fromEntries((after ?? []).map((value, i) => [`after_${i}`, value])),
      limit: limit + 1
    }) as (TaskRow & Record<`key_${number}`, string | number>)[];
    const shown = rows.slice(0, limit);
    const last = shown[shown.length - 1];
    return {
      tasks: shown.map(toTask),
      next: rows.length > limit && last ? keys.map((_, i) => last[`key_${i}`]!) : null
    };
  }

  count(filter: TaskFilter): number {
    const { sql, parameters } = where(filter);
    const from = sql.includes('s.') ? FROM_TASK : 'FROM task t';
    const row = this.#prepare(`SELECT count(*) AS count ${from} WHERE ${sql}`).get(parameters);
    return (row as { count: number }).count;
  }

  /** The ids that a filter finds, in order, at most `limit`. */
  ids(filter: TaskFilter, order: TaskOrder, limit: number): number[] {
    const { sql, parameters } = where(filter);
    const by = keysOf(order)
      .map(({ sql: key, down }) => `${key}${down ? ' DESC' : ''}`)
      .join(', ');
    const rows = this.#prepare(`SELECT t.id ${FROM_TASK} WHERE ${sql} ORDER BY ${by} LIMIT @limit`).all({
      ...parameters,
      limit
    });
    return (rows as { id: number }[]).map(({ id }) => id);
  }

  /** How many tasks stand in each group, in its order, with what they have in common. */
  groups(filter: TaskFilter, group: GroupKey): { value: string | number | null; count: number }[] {
    const { sql, parameters } = where(filter);
    const common = COMMON[group];
    const by = group === 'status' ? 's.position' : KEYS[group][0];
    // Counted by the plain value first: its order, which costs more, is asked for each group once.
    return this.#prepare(
      `SELECT counted.value, counted.count FROM (
         SELECT ${common} AS value, count(*) AS count, min(t.id) AS example FROM task t WHERE ${sql} GROUP BY 1
       ) counted JOIN task t ON t.id = counted.example JOIN status s ON s.id = t.status_id ORDER BY ${by}`
    ).all(parameters) as { value: string | number | null; count: number }[];
  }

  #prepare(sql: string): Statement<[Record<string, unknown>]> {
    let statement = this.#prepared.get(sql);
    if (!statement) this.#prepared.set(sql, (statement = this.#db.prepare<[Record<string, unknown>]>(sql)));
    return statement;
  }
}

const FROM_BY_DUE = 'FROM task t INDEXED BY task_by_due CROSS JOIN status s ON s.id = t.status_id';

/**
 * Whether a page is read along the index of dates: where little is asked but that order, most that it passes is shown. What is narrow is found by other
 * indexes, and sorted.
 */
function inOrder(
  { ids, text, projectId, sectionId, ownerId, tag, aside }: TaskFilter,
  order: TaskOrder
): boolean {
  const narrow = [ids, text, sectionId, tag, projectId, ownerId].some(
    (one) => one !== undefined && one !== ''
  );
  return order.sort === 'due' && !order.down && order.group === null && !narrow && aside === undefined;
}

/** Group, order, then the id, so that every task has a place of its own. */
function keysOf({ sort, down, group }: TaskOrder): Key[] {
  const grouped: Key[] = group === null ? [] : KEYS[group].slice(0, 1).map((sql) => ({ sql, down: false }));
  return [...grouped, ...KEYS[sort].map((sql) => ({ sql, down })), { sql: 't.id', down }];
}

/** Rows after the cursor: as one comparison of rows where all keys go one way, which an index answers; else key by key. */
function beyondSql(keys: readonly Key[]): string {
  if (keys.every(({ down }) => down === keys[0]!.down)) {
    const list = keys.map(({ sql }) => sql).join(', ');
    return `(${list}) ${keys[0]!.down ? '<' : '>'} (${keys.map((_, i) => `@after_${i}`).join(', ')})`;
  }
  const steps = keys.map(({ sql, down }, i) => {
    const same = keys.slice(0, i).map(({ sql: key }, j) => `${key} = @after_${j}`);
    return `(${[...same, `${sql} ${down ? '<' : '>'} @after_${i}`].join(' AND ')})`;
  });
  return `(${steps.join(' OR ')})`;
}

/** The condition of a filter: only what is asked is in the text, so that each form has a plan of its own. */
function where(filter: TaskFilter): { sql: string; parameters: Record<string, unknown> } {
  const parts: string[] = [];
  const parameters: Record<string, unknown> = sightParameters(filter.sight);
  const add = (sql: string, values: Record<string, unknown> = {}) => {
    parts.push(sql);
    Object.assign(parameters, values);
  };
  const { aside, ids, text } = filter;
  if (aside === undefined) add('t.set_aside IS NULL');
  else if (aside !== 'any') add('t.set_aside = @aside', { aside });
  if (ids) add('t.id IN (SELECT value FROM json_each(@ids))', { ids: JSON.stringify(ids) });
  const words = text ? matchWords(text) : '';
  if (words)
    add(
      `t.id IN (SELECT rowid FROM task_text WHERE task_text MATCH @words
        UNION SELECT c.task_id FROM comment c WHERE c.id IN (SELECT rowid FROM comment_text WHERE comment_text MATCH @words))`,
      { words }
    );
  else if (text?.trim()) add('instr(lower(t.name), lower(@text)) > 0', { text: text.trim() });
  if (filter.projectId === null) add('t.project_id IS NULL');
  else if (filter.projectId !== undefined) add('t.project_id = @projectId', { projectId: filter.projectId });
  if (filter.sectionId !== undefined) add('t.section_id = @sectionId', { sectionId: filter.sectionId });
  if (filter.ownerId === null) add('t.owner_id IS NULL');
  else if (filter.ownerId !== undefined)
    add('(t.owner_id = @ownerId OR t.id IN (SELECT task_id FROM co_owner WHERE person_id = @ownerId))', {
      ownerId: filter.ownerId
    });
  if (filter.statusId !== undefined) add('t.status_id = @statusId', { statusId: filter.statusId });
  if (filter.phases)
    add('t.status_id IN (SELECT id FROM status WHERE phase IN (SELECT value FROM json_each(@phases)))', {
      phases: JSON.stringify(filter.phases)
    });
  if (filter.priority) add('t.priority = @priority', { priority: filter.priority });
  if (filter.tag)
    add('t.id IN (SELECT task_id FROM task_tag WHERE lower(name) = lower(@tag))', { tag: filter.tag });
  if (filter.undated) add('t.due_date IS NULL');
  if (filter.dueFrom) add('t.due_date >= @dueFrom', { dueFrom: filter.dueFrom });
  if (filter.dueUntil) add('t.due_date <= @dueUntil', { dueUntil: filter.dueUntil });
  if (filter.recurring) add('t.rhythm IS NOT NULL');
  // A coordinator's sight is one comparison; the long form is for those who see a part.
  if (filter.sight.all)
    add('(t.private = 0 OR coalesce(t.owner_id, t.former_owner_id, t.created_by) = @viewerId)');
  else add(SEEN);
  const used = Object.fromEntries(
    Object.entries(parameters).filter(([name]) => parts.some((part) => part.includes(`@${name}`)))
  );
  return { sql: parts.join(' AND '), parameters: used };
}

/** What was typed as a query of the index: every word, the last one as a beginning; quotes and signs mean nothing. */
function matchWords(text: string): string {
  const words = text.normalize('NFC').match(/[\p{L}\p{N}]+/gu) ?? [];
  return words
    .slice(0, 12)
    .map((word, i) => `"${word}"${i === words.length - 1 ? '*' : ''}`)
    .join(' ');
}
