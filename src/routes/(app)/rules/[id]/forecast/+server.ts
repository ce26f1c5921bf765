import { answerJson, signedIn } from '$lib/server/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** What the rule in the request would do in the next four weeks. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    return event.locals.app.outlooks.ofRule(Number(event.params.id), await ruleInput(event), viewer);
  });
