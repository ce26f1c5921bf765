import { CodedError } from '$lib/core/errors.ts';
import { fail, type RequestEvent } from '@sveltejs/kit';
import { doToldAct, readToldAct, TOLD_DONE, type ToldActName } from '$lib/server/person/told-acts.ts';
import { personChoices, personPage } from '$lib/server/person/person-views.ts';
import { digestsTold, standingView } from '$lib/server/person/told-views.ts';
import { hushView } from '$lib/server/web/hush.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const who = signedIn(event);
  const { app } = event.locals;
  const { id } = who.person;
  const { preferences, channels, leave, standsInFor } = personPage(app, id, true);
  return {
    me: id,
    ...{ preferences, channels, leave, standsInFor },
    standing: standingView(app, who),
    digests: digestsTold(app, who),
    hush: hushView(event, 'person', id, (byId) => byId === id),
    people: personChoices(app, id).managers,
    week: app.later.view('told week', id, null)
  };
};

export const actions: Actions = {
  quiet: (event) => changed(event, 'quiet'),
  channels: (event) => changed(event, 'channels'),
  leave: (event) => changed(event, 'leave'),
  dropLeave: (event) => changed(event, 'dropLeave'),
  remind: (event) => changed(event, 'remind'),
  dropRemind: (event) => changed(event, 'dropRemind'),
  hush: (event) => changed(event, 'hush'),
  unhush: (event) => changed(event, 'unhush')
};

/** Makes a change; what is wrong goes back to its form, with what was typed in it. */
async function changed(event: RequestEvent, name: ToldActName) {
  const { actor, person, zone } = signedIn(event);
  const { app } = event.locals;
  const form = await event.request.formData();
  const failed = (errors: Record<string, string>, warnings: string[] = []) =>
    fail(400, {
      ...{ form: name, errors, warnings },
      given: Object.fromEntries(form)
    });
  const input = readToldAct(name, form);
  if (!input.ok) return failed(input.errors);
  try {
    if (input.value.name === 'leave' && form.get('anyway') !== 'on') {
      const warnings = app.people.leaveWarnings(person.id, input.value.input);
      if (warnings.length > 0) return failed({}, warnings);
    }
    const { changeId } = doToldAct(app, { ...actor, personId: person.id }, zone, input.value);
    return { done: TOLD_DONE[name], changeId };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return failed({ [failure.field ?? '']: failure.message });
  }
}
