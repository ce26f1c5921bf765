import { CodedError } from '$lib/core/errors.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** Takes a change back: `{changeId}`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person, may } = signedIn(event);
    const { changeId } = ((await jsonOf(event.request)) ?? {}) as { changeId?: number };
    const made = event.locals.app.stores.changes.actorOf(Number(changeId));
    if (made !== person.id && !may('watch the whole team')) throw new CodedError('undo-not-yours');
    const { result } = event.locals.app.committer.undo(Number(changeId), person.id);
    await event.locals.app.engine.tick();
    const kept =
      result.kept > 0 ? ` ${result.kept} later ${result.kept === 1 ? 'edit was' : 'edits were'} kept.` : '';
    return { message: `Undone.${kept}` };
  });
