import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { ruleList } from '$lib/server/service/rule-list.ts';
import { signedIn } from '$lib/server/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  return { rules: ruleList(event.locals.app, zone), place: placeOfZone(zone.name) };
};

export const actions: Actions = {
  add: (event) => {
    const { actor } = signedIn(event);
    const { changeId, result } = event.locals.app.rules.add(actor);
    return { done: 'A rule was started.', changeId, goto: `/rules/${result}` };
  }
};
