import { personList } from '$lib/server/service/person-views.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { sight, may } = signedIn(event);
  const people = personList(event.locals.app, sight);
  const group = event.url.searchParams.get('group') ?? '';
  return {
    group,
    groups: event.locals.app.stores.people.groups(),
    people: group === '' ? people : people.filter(({ groups }) => groups.includes(group)),
    mayEdit: may('look after people')
  };
};
