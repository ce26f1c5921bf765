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
    const held = app.handOver.heldBy(id);
    const { name, managerId, active } = app.stores.people.byId(id)!;
    return {
      held,
      person: { id, name, managerId, active },
      heirs: app.stores.people
        .all()
        .filter((one) => one.active && one.id !== id)
        .map((one) => ({ id: one.id, name: one.name }))
    };
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
