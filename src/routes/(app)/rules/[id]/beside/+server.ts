import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** The rule in the request beside the version that is live; null where none is. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person } = signedIn(event);
    const written = { ruleId: Number(event.params.id), input: await ruleInput(event) };
    return event.locals.app.later.view('rule beside', person.id, written);
  });
