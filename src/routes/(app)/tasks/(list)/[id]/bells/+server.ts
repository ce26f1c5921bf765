import { bellsOfTask } from '$lib/server/task/task-bells.ts';
import { answerJson, seenTask, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Every bell of a task: `WholeTaskBells`. */
export const GET: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.params.id));
  return answerJson(() => bellsOfTask(event.locals.app, task.id, signedIn(event).viewer));
};
