import type { TaskRowView } from '../../view/tasks.ts';
import type { Container } from '../container.ts';
import type { Sight, TaskFilter } from '../store/tasks.ts';
import { taskRows } from './task-views.ts';
import type { Viewer } from './viewer.ts';
import type { TaskSet } from './tower.ts';

/** Rows of one page of the list. */
const PAGE_ROWS = 100;

const SETS: readonly TaskSet[] = ['overdue', 'today', 'out of earshot'];

/** What the address of the list says. */
export interface ListQuery {
  text: string;
  projectId: number | null;
  ownerId: number | null;
  /** `open` is what is shown when nothing is said. */
  show: 'open' | 'done' | 'all' | TaskSet;
  /** `DATE.ID` of the last row of the page before. */
  after: string | null;
}

/** Reads the filter from an address; what makes no sense is left out. */
export function readListQuery(parameters: URLSearchParams): ListQuery {
  const id = (name: string) =>
    /^\d{1,15}$/.test(parameters.get(name) ?? '') ? Number(parameters.get(name)) : null;
  const show = parameters.get('show') ?? 'open';
  const after = parameters.get('after') ?? '';
  return {
    text: (parameters.get('text') ?? '').slice(0, 200),
    projectId: id('project'),
    ownerId: id('owner'),
    show: ['done', 'all', ...SETS].includes(show) ? (show as ListQuery['show']) : 'open',
    after: /^[\d-]{4,10}\.\d+$/.test(after) ? after : null
  };
}

/** A page of the list as a viewer reads it. */
export interface TaskListView {
  query: ListQuery;
  rows: TaskRowView[];
  total: number;
  /** The address of the page after this one; null when this is the last. */
  nextPage: string | null;
  /** Whether the workspace has any task at all. */
  any: boolean;
}

/** One page of the tasks that an address asks for. */
export function taskList(
  app: Container,
  parameters: URLSearchParams,
  viewer: Viewer,
  sight: Sight
): TaskListView {
  const query = readListQuery(parameters);
  const { tasks, total } = app.stores.tasks.page(taskFilter(app, query, sight));
  const last = tasks[tasks.length - 1];
  const following = new URLSearchParams(parameters);
  if (last) following.set('after', `${last.due?.date ?? '9999'}.${last.id}`);
  return {
    query,
    rows: taskRows(app, tasks, viewer.zone),
    total,
    nextPage: last && tasks.length === PAGE_ROWS ? `/tasks?${following}` : null,
    any: app.stores.tasks.count() > 0
  };
}

function taskFilter(app: Container, query: ListQuery, sight: Sight): TaskFilter {
  const [dueDate = '', id = ''] = query.after?.split('.') ?? [];
  const set = SETS.find((name) => name === query.show);
  return {
    text: query.text,
    projectId: query.projectId ?? undefined,
    ownerId: query.ownerId ?? undefined,
    open: query.show === 'open' ? true : query.show === 'done' ? false : undefined,
    ids: set ? app.tower.idsOf(set) : undefined,
    after: query.after ? { dueDate, id: Number(id) } : undefined,
    limit: PAGE_ROWS,
    sight
  };
}
