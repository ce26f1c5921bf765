import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { digestList } from '$lib/server/digest/digest-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  return { digests: digestList(event.locals.app, zone), place: placeOfZone(zone.name) };
};

export const actions: Actions = {
  add: (event) =>
    orFail({}, () => {
      const { digests } = event.locals.app;
      const { changeId, result } = digests.add(signedIn(event).actor, digests.blank());
      return { done: 'Digest added. It is off.', changeId, goto: `/digests/${result}` };
    })
};
