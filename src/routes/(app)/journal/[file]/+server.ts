import { error } from '@sveltejs/kit';
import { RECORD_FILES, recordFile } from '$lib/server/in-out/write/record-file.ts';
import { journalCells, journalFilter } from '$lib/server/record/journal-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Everything that the filter in the address finds, as `journal.csv` or `journal.jsonl`. */
export const GET: RequestHandler = (event) => {
  const { viewer } = signedIn(event);
  const format = RECORD_FILES.find((one) => event.params.file === `journal.${one}`);
  if (!format) error(404, 'There is no such file. There are journal.csv and journal.jsonl.');
  const filter = journalFilter(event.url.searchParams, viewer);
  return recordFile(journalCells(event.locals.app, filter, viewer), format, 'journal');
};
