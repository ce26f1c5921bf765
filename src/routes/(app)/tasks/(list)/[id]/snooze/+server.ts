import { answerJson, jsonParts, seenTask, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Takes a snooze of one's own back: `{notice}` is what was put off. */
export const POST: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.params.id));
  return answerJson(async () => {
    const { actor } = signedIn(event);
    const { app } = event.locals;
    const { notice } = await jsonParts(event.request);
    const id = Number.isSafeInteger(notice) ? (notice as number) : 0;
    app.quiet.unsnooze(actor, id, task.id);
    return { message: 'Snooze ended: not sent again.' };
  });
};
