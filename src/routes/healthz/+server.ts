import type { RequestHandler } from './$types';

/** Whether the process lives and its database answers. */
export const GET: RequestHandler = ({ locals }) => {
  locals.app.db.prepare('SELECT 1').get();
  return new Response('alive\n', { headers: { 'cache-control': 'no-store' } });
};
