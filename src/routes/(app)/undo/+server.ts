import { undoneWords } from '$lib/server/service/undone-words.ts';
import { CodedError } from '$lib/core/errors.ts';
import { deedsToUndo } from '$lib/server/auth/undo.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** Takes a change back: `{changeId}`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person, may } = signedIn(event);
    const { changeId } = ((await jsonOf(event.request)) ?? {}) as { changeId?: number };
    const { changes } = event.locals.app.stores;
    if (changes.actorOf(Number(changeId)) !== person.id && !may('watch the whole team'))
      throw new CodedError('undo-not-yours');
    // Taking back a change of access or of settings is one: it asks for what the change asked for.
    for (const deed of deedsToUndo(changes.rowsOf(Number(changeId))))
      if (!may(deed)) throw new CodedError('no-access');
    const { result } = event.locals.app.committer.undo(Number(changeId), person.id);
    await event.locals.app.engine.tick();
    return { message: `Undone.${undoneWords(event.locals.app, result)}` };
  });
