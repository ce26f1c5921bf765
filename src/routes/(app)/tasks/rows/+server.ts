import { PAGE_ROWS } from '$lib/server/task/task-list.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Most rows that one answer carries. */
const MOST_ROWS = 1_000;

/** More rows of a list: the list's own parameters, `after` as the page before gave it, and how many. */
export const GET: RequestHandler = (event) =>
  answerJson(() => {
    const { viewer, sight } = signedIn(event);
    const { searchParams } = event.url;
    const rows = Math.min(MOST_ROWS, Math.max(1, Number(searchParams.get('rows')) || PAGE_ROWS));
    const { taskLists } = event.locals.app;
    return taskLists.page(taskLists.read(searchParams), searchParams.get('after'), viewer, sight, rows);
  });
