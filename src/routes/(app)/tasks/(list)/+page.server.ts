import { fail } from '@sveltejs/kit';
import { read } from '$lib/server/input/fields.ts';
import { savedListSchema } from '$lib/server/project/schema.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions } from './$types';

export const actions: Actions = {
  keep: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const values = {
      name: String(form.get('name') ?? ''),
      query: String(form.get('query') ?? ''),
      shared: form.get('shared') === 'on',
      counted: form.get('counted') === 'on'
    };
    const input = read(savedListSchema, values);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      const { changeId } = event.locals.app.savedLists.save(actor, input.value);
      return { done: `List “${input.value.name}” saved.`, changeId };
    });
  },
  drop: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    return orFail({ name: '' }, () => {
      const { changeId } = event.locals.app.savedLists.drop(actor, idOf(form, 'id') ?? 0);
      return { done: 'List removed. Its tasks remain.', changeId };
    });
  }
};
