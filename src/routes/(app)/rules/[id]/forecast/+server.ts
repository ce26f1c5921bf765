import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** What the rule in the request would do in the next four weeks. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person } = signedIn(event);
    const written = { ruleId: Number(event.params.id), input: await ruleInput(event) };
    return event.locals.app.later.view('rule outlook', person.id, written);
  });
