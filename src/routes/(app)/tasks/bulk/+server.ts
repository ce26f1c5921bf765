import { many } from '$lib/core/many.ts';
import { bulkSchema } from '$lib/server/task/bulk-schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { stampOf } from '$lib/server/effect/stamp.ts';
import { answerJson, answerLook, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Changes many tasks at once, or says what that would do: `BulkInput` with `preview`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person } = signedIn(event);
    const body = await jsonParts(event.request);
    const { preview, stamp, ...asked } = body;
    const input = readOrRefuse(bulkSchema, asked);
    const act = { act: 'many tasks' as const, input };
    if (preview) return answerLook(event, act);
    const { changeId, result } = await event.locals.app.longActs.do(person.id, act, stampOf(stamp));
    const left = result.left.reduce((sum, { count }) => sum + count, 0);
    const message = `${many(result.changed, 'task')} changed${left > 0 ? `, ${left} not changed` : ''}.`;
    return { message, changeId };
  });
