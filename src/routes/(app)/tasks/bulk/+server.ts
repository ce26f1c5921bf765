import { bulkSchema } from '$lib/server/schema/bulk.ts';
import { readOrRefuse } from '$lib/server/schema/fields.ts';
import { stampOf } from '$lib/server/schema/stamp.ts';
import { answerJson, answerLook, jsonParts, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** Changes many tasks at once, or says what that would do: `BulkInput` with `preview`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person, actor, viewer, sight } = signedIn(event);
    const body = await jsonParts(event.request);
    const { preview, stamp, ...asked } = body;
    const input = readOrRefuse(bulkSchema, asked);
    const act = { act: 'many tasks' as const, input };
    if (preview) return answerLook(event, act);
    const { bulk, tryOuts } = event.locals.app;
    const fresh = await tryOuts.lookAgain(person.id, act, stampOf(stamp));
    const { changeId, result } = bulk.apply(actor, input, viewer, sight, fresh);
    const left = result.left.reduce((sum, { count }) => sum + count, 0);
    const message = `${result.changed} ${result.changed === 1 ? 'task was' : 'tasks were'} changed${left > 0 ? `, ${left} left as they were` : ''}.`;
    return { message, changeId };
  });
