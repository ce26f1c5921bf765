import { error } from '@sveltejs/kit';
import { RECORD_FILES, recordFile } from '$lib/server/in-out/write/record-file.ts';
import { taskCells } from '$lib/server/task/task-cells.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Every task that the filter in the address finds, as `tasks.csv` or `tasks.jsonl`. */
export const GET: RequestHandler = (event) => {
  const { viewer, sight } = signedIn(event);
  const format = RECORD_FILES.find((one) => event.params.file === `tasks.${one}`);
  if (!format) error(404, 'There is no such file. There are tasks.csv and tasks.jsonl.');
  const { app } = event.locals;
  const query = app.taskLists.read(event.url.searchParams);
  return recordFile(taskCells(app, query, viewer, sight), format, 'tasks');
};
