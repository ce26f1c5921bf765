import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { orFail } from '$lib/server/web-forms.ts';
import { signedIn } from '$lib/server/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  const opened = app.rules.open(id);
  if (!opened) error(404, errorSentence('rule-gone'));
  return { id, name: opened.rule.name, versions: app.ruleCopies.versions(id, viewer, app.clock.now()) };
};

export const actions: Actions = {
  restore: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const id = Number(event.params.id);
    return orFail({}, () => {
      const { changeId } = event.locals.app.ruleCopies.restore(actor, id, Number(form.get('version')));
      return {
        done: 'It stands as a draft now; make it live to ring by it.',
        changeId,
        goto: `/rules/${id}`
      };
    });
  }
};
