import { answerJson, answerLook } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What taking a change back would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => answerLook(event, { act: 'undo', changeId: Number(event.params.id) }));
