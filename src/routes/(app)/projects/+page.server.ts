import { fail } from '@sveltejs/kit';
import { read } from '$lib/server/input/fields.ts';
import { projectSchema } from '$lib/server/project/schema.ts';
import { orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async (event) => {
  event.depends('early-bell:tasks');
  const { person } = signedIn(event);
  return { projects: await event.locals.app.later.view('projects', person.id, null) };
};

export const actions: Actions = {
  add: async (event) => {
    const { actor } = signedIn(event);
    const values = { name: String((await event.request.formData()).get('name') ?? '') };
    const input = read(projectSchema, values);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      const { changeId, result } = event.locals.app.projects.add(actor, input.value);
      return { done: `“${input.value.name}” was added.`, changeId, goto: `/projects/${result}` };
    });
  }
};
