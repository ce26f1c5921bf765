import { hindsight } from '$lib/server/rule/hindsight.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** What the rule in the request would have done in the last four weeks. Changes nothing; ends when nobody waits for it any more. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const input = await ruleInput(event);
    return hindsight(event.locals.app, Number(event.params.id), input, viewer, event.request.signal);
  });
