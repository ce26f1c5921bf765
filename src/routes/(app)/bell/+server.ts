import { json } from '@sveltejs/kit';
import { behindBell, seeBehindBell } from '$lib/server/message/in-app.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What stands behind the bell of whoever is signed in. */
export const GET: RequestHandler = (event) => {
  const { person, zone } = signedIn(event);
  return json(behindBell(event.locals.app, person.id, zone));
};

/** One was looked at, or all of them. */
export const POST: RequestHandler = async (event) => {
  const { person, zone } = signedIn(event);
  const { app } = event.locals;
  return answerJson(async () => {
    const { id } = await jsonParts(event.request);
    const which = typeof id === 'number' && Number.isInteger(id) ? id : null;
    seeBehindBell(app, person.id, which);
    return behindBell(app, person.id, zone);
  });
};
