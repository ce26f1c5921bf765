import { eventsOfChange } from '../../core/forecast/decide/task-events.ts';
import type { OwnChange } from '../../core/forecast/decide/own-changes.ts';
import type { RuleEvent } from '../../core/rule/events.ts';
import { isOpen, type Phase } from '../../core/task/model.ts';
import type { Row, SqlValue } from '../db/row.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Status } from '../store/projects.ts';

type Written = ChangeWriter['written'][number];

/** Columns of a task that are one thing to whoever listens. */
const KEYS: Record<string, string> = {
  owner_id: 'owner',
  project_id: 'project',
  section_id: 'section',
  priority: 'priority',
  percent: 'percent',
  name: 'name',
  description: 'description',
  set_aside: 'aside',
  review_date: 'review date'
};
const DATES = ['due', 'start', 'remind'] as const;

/** What happened to tasks by the rows that a change wrote: each thing once for a task, with what it was and what it became. */
export function eventsOfWritten(
  written: readonly Written[],
  statuses: readonly Status[],
  openTasksOf: (projectId: number) => readonly number[]
): { events: RuleEvent[]; tasks: number } {
  const phases = new Map(statuses.map(({ id, phase }) => [id, phase]));
  const changes = new Map<number, OwnChange>();
  const events: RuleEvent[] = [];
  const tasks = new Set<number>();
  const add = (name: RuleEvent['name'], taskId: number) =>
    events.push({ name, taskId, before: null, after: null });
  for (const one of written) {
    const taskId = one.table === 'task' ? one.rowId : Number(one.row.task_id ?? 0);
    if (taskId > 0) tasks.add(taskId);
    if (one.table === 'project') events.push(...projectEvents(one, openTasksOf));
    else if (one.table === 'task') {
      if (one.kind === 'insert') {
        add('created', taskId);
        if (one.row.owner_id != null)
          events.push({ name: 'assigned', taskId, before: null, after: String(one.row.owner_id) });
      } else if (one.kind === 'update') merge(changes, taskId, changeOf(one, phases));
    } else if (one.table === 'comment' && one.kind === 'insert') add('commented', taskId);
    else if (one.table === 'time_entry' && one.kind === 'insert') add('time logged', taskId);
    else if (one.table === 'promise') {
      const event = promiseEvent(one);
      if (event) add(event, taskId);
    } else if (one.table === 'field_value') merge(changes, taskId, ownFieldOf(one));
    else if (one.table === 'task_tag')
      merge(changes, taskId, { before: { tags: '' }, after: { tags: String(one.row.name) } });
  }
  for (const [taskId, change] of changes) events.push(...eventsOfChange(taskId, change));
  events.push(...subtaskEvents(written, phases));
  return { events: events.filter(({ taskId }) => taskId > 0), tasks: tasks.size };
}

/** What is said counts once it needs no yes, or has it. */
function promiseEvent({ kind, row, before }: Written): RuleEvent['name'] | null {
  if (kind === 'insert') return row.state === 'asked' ? 'promise asked' : 'acknowledged';
  if (kind !== 'update' || row.state === before?.state) return null;
  if (row.state === 'open' && before?.state === 'asked') return 'acknowledged';
  return row.state === 'broken' ? 'promise broken' : null;
}

function changeOf({ columns, row, before }: Written, phases: ReadonlyMap<number, Phase>): OwnChange {
  const was: Row = before ?? {};
  const change: OwnChange = { before: {}, after: {} };
  const set = (key: string, from: SqlValue | undefined, to: SqlValue | undefined) => {
    change.before[key] = textOf(from);
    change.after[key] = textOf(to);
  };
  for (const column of columns) if (KEYS[column]) set(KEYS[column], was[column], row[column]);
  for (const date of DATES) {
    const parts = [`${date}_date`, `${date}_time`, `${date}_zone`];
    if (!parts.some((part) => columns.includes(part))) continue;
    const written = (of: Row) =>
      of[`${date}_date`] == null
        ? null
        : parts
            .map((part) => of[part] ?? '')
            .join(' ')
            .trim();
    set(date === 'remind' ? 'reminder date' : date, written(was), written(row));
  }
  if (columns.includes('status_id')) {
    set('status', was.status_id, row.status_id);
    const [from, to] = [phases.get(Number(was.status_id)), phases.get(Number(row.status_id))];
    if (from !== to) set('phase', from ?? null, to ?? null);
  }
  return change;
}

function ownFieldOf({ kind, row, before }: Written): OwnChange {
  const key = `own ${String(row.field_id)}`;
  return {
    before: { [key]: kind === 'insert' ? null : textOf(before?.value ?? row.value) },
    after: { [key]: kind === 'remove' ? null : textOf(row.value) }
  };
}

/** A project that is called off or closed is heard by each of its open tasks. */
function projectEvents(
  { kind, columns, row, rowId }: Written,
  openTasksOf: (projectId: number) => readonly number[]
): RuleEvent[] {
  if (kind !== 'update' || !columns.includes('state') || row.state === 'open') return [];
  const name = row.state === 'closed' ? 'project closed' : 'project called off';
  return openTasksOf(rowId).map((taskId) => ({ name, taskId, before: null, after: null }));
}

/** A task of which the last open subtask was done with. */
function subtaskEvents(written: readonly Written[], phases: ReadonlyMap<number, Phase>): RuleEvent[] {
  const parents = new Set<number>();
  for (const { table, kind, columns, row, before } of written) {
    if (
      table !== 'task' ||
      kind !== 'update' ||
      typeof row.parent_id !== 'number' ||
      !columns.includes('status_id')
    )
      continue;
    const [from, to] = [phases.get(Number(before?.status_id)), phases.get(Number(row.status_id))];
    if (from && to && isOpen(from) && !isOpen(to)) parents.add(row.parent_id);
  }
  return [...parents].map((taskId) => ({
    name: 'last open subtask finished',
    taskId,
    before: null,
    after: null
  }));
}

/** What is written twice in one change happened once. */
function merge(changes: Map<number, OwnChange>, taskId: number, change: OwnChange): void {
  const known = changes.get(taskId);
  if (!known) changes.set(taskId, change);
  else {
    known.before = { ...change.before, ...known.before };
    known.after = { ...known.after, ...change.after };
  }
}

function textOf(value: SqlValue | undefined): string | null {
  return value == null ? null : String(value);
}
