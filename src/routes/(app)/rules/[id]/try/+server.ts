import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../rule-input.ts';
import type { RequestHandler } from './$types';

/** The rule in the request tried on the task that `task` names. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const taskId = Number(event.url.searchParams.get('task'));
    return event.locals.app.trials.tryOn(
      Number(event.params.id),
      await ruleInput(event),
      Number.isInteger(taskId) ? taskId : 0,
      viewer
    );
  });
