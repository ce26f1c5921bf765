import { SESSION_COOKIE } from '$lib/server/auth/auth.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** That something has changed, by server-sent events: never what. Whoever has as many pages open as may be is asked not to come again (204). */
export const GET: RequestHandler = (event) => {
  const { person } = signedIn(event);
  const stream = event.locals.app.live.open(person.id, event.cookies.get(SESSION_COOKIE)!);
  if (!stream) return new Response(null, { status: 204 });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'x-accel-buffering': 'no' }
  });
};
