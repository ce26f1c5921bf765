import { contactList, missingTask } from '$lib/server/person/contact-views.ts';
import { projectChoices } from '$lib/server/workspace/choices.ts';
import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { contactSchema } from '$lib/server/person/schema.ts';
import { zoneChoices } from '$lib/server/person/zone-choices.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { sight, person } = signedIn(event);
  const { app } = event.locals;
  const contacts = contactList(app, sight);
  const chosen = Number(event.url.searchParams.get('contact'));
  return {
    contacts,
    chosen: contacts.find(({ id }) => id === chosen) ?? null,
    projects: projectChoices(app),
    zones: zoneChoices(app.clock.now()),
    zone: person.zone
  };
};

export const actions: Actions = {
  save: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const values = Object.fromEntries(form) as Record<string, string>;
    const projectIds = form.getAll('projectIds').map(Number);
    const taskIds = [...(values.tasks ?? '').matchAll(/\d+/g)].map(([digits]) => Number(digits));
    const given = { ...values, projectIds, taskIds };
    const input = read(contactSchema, given);
    if (!input.ok) return fail(400, { given: { ...values, projectIds }, errors: input.errors });
    const missing = missingTask(event.locals.app, input.value.taskIds);
    if (missing !== undefined)
      return fail(400, {
        given: { ...values, projectIds },
        errors: { tasks: `There is no task ${missing}.` }
      });
    try {
      const id = values.id ? Number(values.id) : null;
      const { changeId } = event.locals.app.contacts.save(actor, id, input.value);
      return { done: `${input.value.name} was saved.`, changeId, goto: '/people/contacts' };
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, {
        given: { ...values, projectIds },
        errors: { '': failure.message }
      });
    }
  },
  remove: async (event) => {
    const { actor } = signedIn(event);
    const id = Number((await event.request.formData()).get('id'));
    try {
      const { changeId } = event.locals.app.contacts.remove(actor, id);
      return { done: 'Contact removed.', changeId, goto: '/people/contacts' };
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, {
        given: {},
        errors: { '': failure.message }
      });
    }
  }
};
