import { fail } from '@sveltejs/kit';
import { taskChoices } from '$lib/server/task/task-views.ts';
import { checkParent, signedIn } from '$lib/server/web/web.ts';
import { orFail, readTaskForm } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => ({
  choices: taskChoices(event.locals.app, signedIn(event).sight)
});

export const actions: Actions = {
  default: async (event) => {
    const { actor } = signedIn(event);
    const { input, values } = await readTaskForm(event.request);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      checkParent(event, input.value.parentId);
      const { changeId, result } = event.locals.app.tasks.add(actor, input.value);
      return { done: `“${input.value.name}” was added.`, changeId, goto: `/tasks/${result}` };
    });
  }
};
