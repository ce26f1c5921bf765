import type { RequestEvent } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/schema/fields.ts';
import { ruleSchema } from '$lib/server/schema/rule.ts';
import { jsonOf } from '$lib/server/web.ts';

/** The rule that the editor holds, as a request carries it. @throws CodedError `bad-field` */
export async function ruleInput(event: RequestEvent) {
  const input = read(ruleSchema, await jsonOf(event.request));
  if (!input.ok) throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]! });
  return input.value;
}
