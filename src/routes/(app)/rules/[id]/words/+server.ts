import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** The words of each Tell of the rule in the request, read about the task that `task` names, or about the first that it watches. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person } = signedIn(event);
    const taskId = Number(event.url.searchParams.get('task') ?? NaN);
    return event.locals.app.later.view('rule words', person.id, {
      ...{ ruleId: Number(event.params.id), input: await ruleInput(event) },
      taskId: Number.isInteger(taskId) ? taskId : null
    });
  });
