import { activePeople } from '$lib/server/workspace/choices.ts';
import { error, fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { handOverSchema } from '$lib/server/person/hand-over-schema.ts';
import { stampOf } from '$lib/server/effect/stamp.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { app } = event.locals;
  const id = Number(event.params.id);
  try {
    return { ...app.handOver.view(id), heirs: activePeople(app).filter((one) => one.id !== id) };
  } catch (failure) {
    if (failure instanceof CodedError) error(404, failure.message);
    throw failure;
  }
};

export const actions: Actions = {
  default: async (event) => {
    const { person } = signedIn(event);
    const id = Number(event.params.id);
    const sent = Object.fromEntries(await event.request.formData()) as Record<string, string>;
    const { stamp, ...given } = sent;
    const input = read(handOverSchema, given);
    if (!input.ok) return fail(400, { given, errors: input.errors });
    try {
      const act = { act: 'hand over' as const, personId: id, input: input.value };
      const { changeId } = await event.locals.app.longActs.do(person.id, act, stampOf(stamp));
      return { done: 'Handed over.', changeId, goto: `/people/${id}` };
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, { given, errors: { [failure.field ?? '']: failure.message } });
    }
  }
};
