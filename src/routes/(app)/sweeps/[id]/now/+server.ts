import { readOrRefuse } from '$lib/server/input/fields.ts';
import { sweepSchema } from '$lib/server/sweep/schema.ts';
import { answerJson, jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What a sweep would take now: as it is saved, or as it is being written where the request carries it. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { sweeps } = event.locals.app;
    const { definition, keeperId } = sweeps.need(Number(event.params.id));
    const body = await jsonOf(event.request);
    if (body === null) return sweeps.now(definition, keeperId);
    const input = readOrRefuse(sweepSchema, body);
    return sweeps.now(input.definition, keeperId);
  });
