import { CodedError } from '$lib/core/errors.ts';
import { bulkSchema } from '$lib/server/schema/bulk.ts';
import { read } from '$lib/server/schema/fields.ts';
import { stampOf } from '$lib/server/schema/stamp.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** Changes many tasks at once, or says what that would do: `BulkInput` with `preview`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { actor, viewer, sight } = signedIn(event);
    const body = ((await jsonOf(event.request)) ?? {}) as { preview?: boolean; stamp?: string };
    const { preview, stamp, ...asked } = body;
    const input = read(bulkSchema, asked);
    if (!input.ok)
      throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]!.replace(/\.$/, '') });
    const { bulk } = event.locals.app;
    if (preview) return bulk.preview(actor, input.value, viewer, sight);
    const { changeId, result } = bulk.apply(actor, input.value, viewer, sight, stampOf(stamp));
    const left = result.left.reduce((sum, { count }) => sum + count, 0);
    const message = `${result.changed} ${result.changed === 1 ? 'task was' : 'tasks were'} changed${left > 0 ? `, ${left} left as they were` : ''}.`;
    return { message, changeId };
  });
