import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { clockTime } from '$lib/core/time/format.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { zoneNamed } from '$lib/core/time/zone.ts';
import { read } from '$lib/server/input/fields.ts';
import { contactSchema } from '$lib/server/person/schema.ts';
import { zoneChoices } from '$lib/server/person/zone-choices.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { sight, person } = signedIn(event);
  const { app } = event.locals;
  const now = app.clock.now();
  const links = app.stores.contacts.links();
  const tasks = new Map(
    links.flatMap(({ taskId }) => {
      const task = taskId === null ? null : app.stores.tasks.byId(taskId);
      return task && app.stores.tasks.seen([task.id], sight).has(task.id) ? [[task.id, task.name]] : [];
    })
  );
  const projects = app.stores.projects.all().map(({ id, name }) => ({ id, name }));
  const contacts = app.stores.contacts.all().map((contact) => {
    const own = links.filter(({ contactId }) => contactId === contact.id);
    return {
      ...contact,
      email: contact.email ?? '',
      phone: contact.phone ?? '',
      place: placeOfZone(contact.zone),
      time: clockTime(now, zoneNamed(contact.zone)),
      projectIds: own.flatMap(({ projectId }) => projectId ?? []),
      tasks: own.flatMap(({ taskId }) =>
        taskId !== null && tasks.has(taskId) ? [{ id: taskId, name: tasks.get(taskId)! }] : []
      )
    };
  });
  const chosen = Number(event.url.searchParams.get('contact'));
  return {
    contacts,
    chosen: contacts.find(({ id }) => id === chosen) ?? null,
    projects,
    zones: zoneChoices(now),
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
    const missing = input.value.taskIds.find((id) => event.locals.app.stores.tasks.byId(id) === null);
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
