import { answerJson, signedIn } from '$lib/server/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** The words of each Tell of the rule in the request, read about the task that `task` names, or about the first that it watches. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const taskId = Number(event.url.searchParams.get('task') ?? NaN);
    return event.locals.app.trials.words(
      Number(event.params.id),
      await ruleInput(event),
      Number.isInteger(taskId) ? taskId : null,
      viewer
    );
  });
