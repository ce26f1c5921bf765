import type { RequestHandler } from './$types';

/** Somebody has chosen many tasks, and will ask what an act on them would do: the thread for that begins. */
export const POST: RequestHandler = ({ locals }) => {
  locals.app.threads.ready('look');
  return new Response(null, { status: 204 });
};
