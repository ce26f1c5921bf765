import { error } from '@sveltejs/kit';
import { rhythmAsked, rowsAsked } from '$lib/server/desk/asked.ts';
import { moreDeskRows } from '$lib/server/desk/desk-views.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** More rows of one part of one’s own Desk: which, as `rowsAsked` reads it, and `from` which on. */
export const GET: RequestHandler = (event) =>
  answerJson(() => {
    const { person, sight } = signedIn(event);
    const { searchParams } = event.url;
    const rows = rowsAsked(searchParams) ?? error(404, { message: 'This part of the Desk does not exist.' });
    const from = Math.max(0, Math.floor(Number(searchParams.get('from')) || 0));
    const asked = { personId: person.id, sight, rhythm: rhythmAsked(searchParams) };
    return moreDeskRows(event.locals.app, asked, rows, from);
  });
