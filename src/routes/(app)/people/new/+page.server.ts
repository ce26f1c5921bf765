import { fail } from '@sveltejs/kit';
import { personChoices } from '$lib/server/person/person-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail, readPersonForm } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { person, may } = signedIn(event);
  return {
    choices: personChoices(event.locals.app, null),
    zone: person.zone,
    calendarId: person.calendarId,
    mayGiveAccess: may('give access')
  };
};

export const actions: Actions = {
  default: async (event) => {
    const { actor, may } = signedIn(event);
    const { input, values } = await readPersonForm(event.request);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      const person = may('give access') ? input.value : { ...input.value, role: 'owner' as const };
      const { changeId, result } = event.locals.app.people.add(actor, person);
      return { done: `${input.value.name} was added.`, changeId, goto: `/people/${result}` };
    });
  }
};
