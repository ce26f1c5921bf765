import { answerLook } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What running the list of a sweep now would do. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerLook(event, { act: 'sweep', runId: Number(event.params.run) });
