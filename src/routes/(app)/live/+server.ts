import type { RequestHandler } from './$types';

/** Changes as they are made, by server-sent events: which tables and tasks, never their contents. */
export const GET: RequestHandler = ({ locals }) =>
  new Response(locals.app.live.open(), {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
  });
