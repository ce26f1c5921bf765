import { formatInstant } from '../../core/time/instant.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { TaskListService } from './task-list.ts';
import type { ListQuery } from '../store/list-query.ts';
import type { StoredMoment } from '../store/task-row.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { orderOf } from './task-list.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { taskLists: TaskListService };

/** Tasks read at once. */
const AT_ONCE = 500;

const CAPTIONS = [
  ...['id', 'name', 'description', 'project', 'owner', 'status', 'phase', 'priority', 'tags', 'due', 'start'],
  ...['slips', 'percent', 'minutes logged', 'created', 'touched', 'finished', 'stands', 'since']
];

/** Every task that somebody’s filter finds, as cells of text, the captions first; read page by page while it is written. */
export function* taskCells(
  app: Services,
  query: ListQuery,
  viewer: Viewer,
  sight: Sight
): Generator<string[]> {
  yield CAPTIONS;
  const filter = app.taskLists.filter(query, viewer, sight);
  for (let after: readonly (string | number)[] | null = null; ;) {
    const { tasks, next } = app.stores.taskList.page(filter, orderOf(query), after, AT_ONCE);
    for (const task of tasks) yield cellsOf(app, task);
    if (next === null) return;
    after = next;
  }
}

function cellsOf({ source, stores }: Services, task: Task): string[] {
  const { people, projects } = source.facts;
  const instant = (at: number | null) => (at === null ? '' : formatInstant(at));
  const minutes = stores.taskParts.times(task.id).reduce((sum, entry) => sum + entry.minutes, 0);
  return [
    ...[String(task.id), task.name, task.description],
    task.projectId === null ? '' : (projects.get(task.projectId)?.name ?? ''),
    task.ownerId === null ? '' : (people.get(task.ownerId)?.name ?? ''),
    ...[task.status, task.phase, task.priority],
    stores.taskParts
      .tags(task.id)
      .map(({ name }) => name)
      .join(', '),
    ...[written(task.due), written(task.start), String(task.slips)],
    ...[task.percent === null ? '' : String(task.percent), String(minutes)],
    ...[instant(task.createdAt), instant(task.touchedAt), instant(task.finishedAt)],
    ...[task.setAside ?? 'list', instant(task.setAsideAt)]
  ];
}

/** `2026-03-05`, or with a time and its zone. */
function written(moment: StoredMoment | null): string {
  if (moment === null) return '';
  return moment.time === null ? moment.date : `${moment.date}T${moment.time}[${moment.zone}]`;
}
