import type { RequestEvent } from '@sveltejs/kit';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { ruleSchema } from '$lib/server/rule/schema.ts';
import { jsonOf } from '$lib/server/web/web.ts';

/** The rule that the editor holds, as a request carries it. @throws CodedError `bad-field` */
export async function ruleInput(event: RequestEvent) {
  const input = readOrRefuse(ruleSchema, await jsonOf(event.request));
  return input;
}
