import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** What is said before the rule in the request is turned on. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person } = signedIn(event);
    const written = { ruleId: Number(event.params.id), input: await ruleInput(event) };
    return event.locals.app.later.view('rule check', person.id, written);
  });
