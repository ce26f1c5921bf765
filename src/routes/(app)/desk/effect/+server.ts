import { placeSchema } from '$lib/server/desk/schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What placing tasks with a new due date would move: looked at before it is done, for those that get one. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { actor, viewer } = signedIn(event);
    const { effects, placing } = event.locals.app;
    const input = readOrRefuse(placeSchema, await jsonOf(event.request));
    const taskIds = placing.redated(actor, input);
    return effects.ofAct(taskIds, () => void placing.place(actor, input), viewer);
  });
