import { nextBell } from '$lib/server/workspace/frame.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** When the next bell leaves, in words: every page shows it, and no page waits for it. */
export const GET: RequestHandler = (event) =>
  answerJson(async () => ({ next: await nextBell(event.locals.app, signedIn(event).person) }));
