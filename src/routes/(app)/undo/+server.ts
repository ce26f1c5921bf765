import { undoneWords } from '$lib/server/record/undone-words.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Takes a change back: `{changeId}`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { changeId } = await jsonParts(event.request);
    const { app } = event.locals;
    const { result } = await app.longActs.do(signedIn(event).person.id, {
      act: 'undo',
      changeId: Number(changeId)
    });
    await app.engine.tick();
    return { message: `Undone.${undoneWords(app, result)}`, left: result.left.length > 0 };
  });
