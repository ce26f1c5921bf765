import { answerJson, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What running the list of a sweep now would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => {
    const { actor, viewer } = signedIn(event);
    return event.locals.app.sweeps.effect(actor, Number(event.params.run), viewer);
  });
