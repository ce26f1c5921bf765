import { error, fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { readChannels, readQuiet } from '$lib/server/person/read-forms.ts';
import { leaveSchema, moveSchema, ownBasicsSchema } from '$lib/server/person/schema.ts';
import { personChoices, personPage } from '$lib/server/person/person-views.ts';
import { hushActions, hushView } from '$lib/server/web/hush.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { readPersonForm } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { person, may, sight } = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  try {
    const mayKeep = person.id === id || may('look after people');
    return {
      ...personPage(app, id, mayKeep),
      bells: app.later.view('person bells', person.id, {
        id,
        all: event.url.searchParams.get('bells') === 'all'
      }),
      hush: hushView(event, 'person', id),
      choices: personChoices(app, id),
      isSelf: person.id === id,
      mayReadDesk: person.id !== id && (may('watch the whole team') || sight.reports.includes(id)),
      mayKeep,
      mayEdit: may('look after people'),
      mayTouchAccount: person.id === id || app.accountGuard.mayTouch(person.id, id),
      mayChangeAddress: app.accountGuard.mayTouch(person.id, id),
      mayGiveAccess: may('give access')
    };
  } catch (failure) {
    if (failure instanceof CodedError) error(404, failure.message);
    throw failure;
  }
};

export const actions: Actions = {
  ...hushActions('person'),
  basics: async (event) => {
    const { actor, may } = signedIn(event);
    const { people } = event.locals.app;
    const id = target(event);
    if (may('look after people')) {
      const { input, values } = await readPersonForm(event.request);
      if (!input.ok) return failed('basics', input.errors, values);
      return act('basics', values, () => {
        const role = may('give access') ? input.value.role : people.roleOf(id);
        const { changeId } = people.edit(actor, id, { ...input.value, role });
        return { done: `${input.value.name} was saved.`, changeId };
      });
    }
    const form = await values(event);
    const input = read(ownBasicsSchema, form);
    if (!input.ok) return failed('basics', input.errors, form);
    return act('basics', form, () => ({
      done: 'Your details were saved.',
      changeId: people.editOwn(actor, id, input.value).changeId
    }));
  },

  move: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event);
    const input = read(moveSchema, form);
    if (!input.ok) return failed('move', input.errors, form);
    return act('move', form, () => ({
      done: 'Change of place saved.',
      changeId: event.locals.app.people.move(actor, target(event), input.value).changeId
    }));
  },

  dropMove: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event);
    return act('move', form, () => ({
      done: 'Change of place removed.',
      changeId: event.locals.app.people.dropMove(actor, target(event), form.from ?? '').changeId
    }));
  },

  leave: async (event) => {
    const { actor } = signedIn(event);
    const { people } = event.locals.app;
    const form = await values(event);
    const input = read(leaveSchema, form);
    if (!input.ok) return failed('leave', input.errors, form);
    return act('leave', form, () => {
      const warnings = form.anyway === 'on' ? [] : people.leaveWarnings(target(event), input.value);
      if (warnings.length > 0) return failed('leave', {}, form, warnings);
      const { changeId } = people.addLeave(actor, target(event), input.value);
      return { done: 'Leave saved.', changeId };
    });
  },

  dropLeave: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event);
    return act('leave', form, () => ({
      done: 'Leave removed.',
      changeId: event.locals.app.people.dropLeave(actor, target(event), Number(form.leave)).changeId
    }));
  },

  quiet: async (event) => {
    const { actor } = signedIn(event);
    const sent = await event.request.formData();
    const form = textsOf(sent);
    const input = readQuiet(sent);
    if (!input.ok) return failed('quiet', input.errors, form);
    return act('quiet', form, () => ({
      done: 'Saved. It applies now.',
      changeId: event.locals.app.people.setQuiet(actor, target(event), input.value).changeId
    }));
  },

  channels: async (event) => {
    const { actor } = signedIn(event);
    const sent = await event.request.formData();
    const given = { chat: String(sent.get('chat') ?? '') };
    const input = readChannels(sent);
    if (!input.ok) return failed('channels', input.errors, given);
    return act('channels', given, () => ({
      done: 'Saved. It applies now.',
      changeId: event.locals.app.people.setChannels(actor, target(event), input.value).changeId
    }));
  },

  signOutEverywhere: (event) => {
    const id = target(event);
    const { person } = signedIn(event);
    const { auth, accountGuard } = event.locals.app;
    return act('access', {}, () => {
      if (id !== person.id) accountGuard.check(person.id, id);
      auth.signOutEverywhere(id);
      return { done: 'Signed out on all devices.' };
    });
  },

  invite: (event) => {
    const { person } = signedIn(event);
    return act('access', {}, () => {
      event.locals.app.accounts.invite(target(event), person.name);
      return { done: 'Invitation sent by mail.' };
    });
  },

  deactivate: (event) => {
    const { actor } = signedIn(event);
    const { app } = event.locals;
    return act('access', {}, () => {
      const { changeId } = app.people.deactivate(actor, target(event));
      return { done: 'Deactivated. They cannot sign in and get no messages.', changeId };
    });
  },

  activate: (event) => {
    const { actor } = signedIn(event);
    return act('access', {}, () => ({
      done: 'Active again.',
      changeId: event.locals.app.people.activate(actor, target(event)).changeId
    }));
  },

  erase: async (event) => {
    const { person } = signedIn(event);
    const form = await values(event);
    return act('access', form, () => {
      event.locals.app.erasing.erase(person.id, target(event));
      return { done: 'Erased. Their name and addresses were removed everywhere.', goto: '/people' };
    });
  }
};

/** Whose page it is: one's own, or anybody's for those who look after people. */
function target(event: RequestEvent): number {
  const { person, may } = signedIn(event);
  const id = Number(event.params.id);
  if (id !== person.id && !may('look after people'))
    error(403, { message: 'This is another person’s page.', code: 'no-access' });
  return id;
}

async function values({ request }: RequestEvent): Promise<Record<string, string>> {
  return textsOf(await request.formData());
}

function textsOf(form: FormData): Record<string, string> {
  return Object.fromEntries(form) as Record<string, string>;
}

/** What comes back to the form that was sent, with what was typed in it. */
function failed(
  form: string,
  errors: Record<string, string>,
  given: object,
  warnings: readonly string[] = []
) {
  return fail(400, { form, errors, given: given as Record<string, unknown>, warnings: [...warnings] });
}

function act<T>(form: string, given: object, work: () => T): T | ReturnType<typeof failed> {
  try {
    return work();
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return failed(form, { [failure.field ?? '']: failure.message }, given);
  }
}
