import { CodedError } from '$lib/core/errors.ts';
import { changeView, undoPreview } from '$lib/server/service/change-views.ts';
import { answerJson, signedIn, undoerOf } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What taking a change back would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => {
    const { viewer } = signedIn(event);
    const undoer = undoerOf(event);
    const id = Number(event.params.id);
    if (!changeView(event.locals.app, id, viewer, undoer)) throw new CodedError('change-gone');
    return undoPreview(event.locals.app, id, viewer, undoer);
  });
