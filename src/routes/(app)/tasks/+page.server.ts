import { taskList } from '$lib/server/service/task-list.ts';
import { taskChoices } from '$lib/server/service/task-views.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { viewer, sight } = signedIn(event);
  const { app } = event.locals;
  return { ...taskList(app, event.url.searchParams, viewer, sight), choices: taskChoices(app) };
};
