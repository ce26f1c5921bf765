import { error } from '@sveltejs/kit';
import { RECORD_FILES, recordFile } from '$lib/server/in-out/write/record-file.ts';
import { outboxCells, outboxFilter } from '$lib/server/record/outbox-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Everything that the filter in the address finds, as `outbox.csv` or `outbox.jsonl`. */
export const GET: RequestHandler = (event) => {
  const { viewer } = signedIn(event);
  const format = RECORD_FILES.find((one) => event.params.file === `outbox.${one}`);
  if (!format) error(404, 'There is no such file. There are outbox.csv and outbox.jsonl.');
  const filter = outboxFilter(event.url.searchParams, viewer);
  return recordFile(outboxCells(event.locals.app, filter, viewer), format, 'outbox');
};
