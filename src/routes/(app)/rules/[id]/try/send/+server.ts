import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { ruleInput } from '../../rule-input.ts';
import type { RequestHandler } from './$types';

/**
 * Sends whoever asks the message that `message` names out of a trial on the task that `task` names, and waits for the server's answer. Nobody
 * else gets it, and nothing else changes.
 */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer, person } = signedIn(event);
    const { trials, channelTest } = event.locals.app;
    const asked = event.url.searchParams;
    const input = await ruleInput(event);
    const copy = trials.copyOf(
      Number(event.params.id),
      input,
      Number(asked.get('task')),
      asked.get('message') ?? '',
      viewer
    );
    return channelTest.sendAndWait(person.id, 'mail', copy);
  });
