import { answerJson, signedIn } from '$lib/server/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** What is said before the rule in the request is turned on. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    return event.locals.app.outlooks.check(Number(event.params.id), await ruleInput(event), viewer);
  });
