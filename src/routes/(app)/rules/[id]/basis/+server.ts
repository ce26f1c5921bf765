import { ruleBasis } from '$lib/server/rule/rule-basis.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What the browser computes the outlook of the rule from; null where the server has to. */
export const GET: RequestHandler = (event) =>
  answerJson(() => {
    const { viewer } = signedIn(event);
    return ruleBasis(event.locals.app, Number(event.params.id), viewer);
  });
