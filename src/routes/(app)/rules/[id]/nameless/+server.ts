import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Whoever began a rule has left it without a name: it is thrown away. Says nothing of any other rule. */
export const POST: RequestHandler = (event) => {
  const { actor } = signedIn(event);
  return answerJson(() => {
    const thrown = event.locals.app.rules.discardNameless(actor, Number(event.params.id));
    return thrown && { message: 'The rule had no name, and was discarded.', changeId: thrown.changeId };
  });
};
