import type { Container } from '../container.ts';
import type { TaskFilter } from '../store/tasks.ts';
import type { TaskSet } from './tower.ts';

/** Rows of one page of the list. */
export const PAGE_ROWS = 100;

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

/** The filter of the store for a query. */
export function taskFilter(app: Container, query: ListQuery): TaskFilter {
  const [dueDate = '', id = ''] = query.after?.split('.') ?? [];
  const set = SETS.find((name) => name === query.show);
  return {
    text: query.text,
    projectId: query.projectId ?? undefined,
    ownerId: query.ownerId ?? undefined,
    open: query.show === 'open' ? true : query.show === 'done' ? false : undefined,
    ids: set ? app.tower.idsOf(set) : undefined,
    after: query.after ? { dueDate, id: Number(id) } : undefined,
    limit: PAGE_ROWS
  };
}
