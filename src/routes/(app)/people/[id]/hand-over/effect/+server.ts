import { handOverSchema } from '$lib/server/person/hand-over-schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, answerLook, jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What handing over what somebody holds would do, before it is done: `HandOverInput`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const input = readOrRefuse(handOverSchema, await jsonOf(event.request));
    return answerLook(event, { act: 'hand over', personId: Number(event.params.id), input });
  });
