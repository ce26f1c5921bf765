import { goToItems } from '$lib/server/workspace/go-to.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Longest text that is looked for. */
const LONGEST = 100;

/** What somebody can go to by its name: `?text=…`. */
export const GET: RequestHandler = (event) =>
  answerJson(() =>
    goToItems(event.locals.app, signedIn(event), (event.url.searchParams.get('text') ?? '').slice(0, LONGEST))
  );
