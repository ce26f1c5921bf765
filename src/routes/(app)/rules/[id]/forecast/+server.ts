import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/schema/fields.ts';
import { ruleSchema } from '$lib/server/schema/rule.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What the rule in the request would do in the next four weeks. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const input = read(ruleSchema, await jsonOf(event.request));
    if (!input.ok) throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]! });
    return event.locals.app.forecasts.ofRule(Number(event.params.id), input.value, viewer);
  });
