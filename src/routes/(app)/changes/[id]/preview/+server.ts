import { CodedError } from '$lib/core/errors.ts';
import { changeView } from '$lib/server/service/change-views.ts';
import { answerJson, answerLook, signedIn, undoerOf } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What taking a change back would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => {
    const { viewer } = signedIn(event);
    const id = Number(event.params.id);
    if (!changeView(event.locals.app, id, viewer, undoerOf(event))) throw new CodedError('change-gone');
    return answerLook(event, { act: 'undo', changeId: id });
  });
