import { taskChoices, taskRows } from '$lib/server/service/task-views.ts';
import { taskFilter, readListQuery, PAGE_ROWS } from '$lib/server/service/task-list.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { zone } = signedIn(event);
  const { app } = event.locals;
  const query = readListQuery(event.url.searchParams);
  const { tasks, total } = app.stores.tasks.page(taskFilter(app, query));
  const last = tasks[tasks.length - 1];
  const next = tasks.length < PAGE_ROWS || !last ? null : `${last.due?.date ?? '9999'}.${last.id}`;
  return {
    query,
    rows: taskRows(app, tasks, zone),
    total,
    next,
    choices: taskChoices(app),
    any: app.stores.tasks.count() > 0
  };
};
