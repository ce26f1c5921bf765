import { error } from '@sveltejs/kit';
import { rhythmAsked, rowsAsked } from '$lib/server/desk/asked.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** More rows of somebody's Desk, for those who may read it. */
export const GET: RequestHandler = (event) =>
  answerJson(() => {
    const { searchParams } = event.url;
    const rows = rowsAsked(searchParams) ?? error(404, { message: 'This part of the Desk does not exist.' });
    const from = Math.max(0, Math.floor(Number(searchParams.get('from')) || 0));
    const { deskReader } = event.locals.app;
    return deskReader.rows(signedIn(event), Number(event.params.id), rhythmAsked(searchParams), rows, from);
  });
