import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What confirming an import would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => {
    const { actor, viewer } = signedIn(event);
    return event.locals.app.imports.effect(actor, event.params.token, viewer);
  });
