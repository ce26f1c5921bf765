import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { readToldAct, TOLD_DONE, type ToldActName } from '$lib/server/person/told-acts.ts';
import { answerJson, answerLook } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What a change of what somebody is told would do to their next seven days: its form, looked at before it is saved. */
export const POST: RequestHandler = async (event) => {
  const name = event.url.searchParams.get('act') ?? '';
  if (!isAct(name)) error(404, { message: 'There is no such change.', code: 'page-gone' });
  const input = readToldAct(name, await event.request.formData());
  if (!input.ok)
    return answerJson(() => {
      throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]!.replace(/\.$/, '') });
    });
  return answerLook(event, { act: 'told', told: input.value });
};

function isAct(name: string): name is ToldActName {
  return Object.hasOwn(TOLD_DONE, name);
}
