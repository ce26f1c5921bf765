import { createHash, timingSafeEqual } from 'node:crypto';
import { error } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

const digest = (text: string) => createHash('sha256').update(text).digest();

/** What the application counts of itself, to whoever shows the token that it was started with. */
export const GET: RequestHandler = async ({ locals, request }) => {
  const { metricsToken } = locals.app.options;
  const shown = /^Bearer (.+)$/.exec(request.headers.get('authorization') ?? '')?.[1] ?? '';
  if (metricsToken === undefined || !timingSafeEqual(digest(shown), digest(metricsToken)))
    error(404, 'There is nothing at this address.');
  const { text, contentType } = await locals.app.meters.text();
  return new Response(text, { headers: { 'content-type': contentType, 'cache-control': 'no-store' } });
};
