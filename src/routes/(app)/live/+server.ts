import { signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** Changes as they are made, by server-sent events: which tables and tasks, never their contents. */
export const GET: RequestHandler = (event) =>
  new Response(event.locals.app.live.open(signedIn(event).person.id), {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
  });
