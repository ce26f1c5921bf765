import { groupsOfPeople } from '$lib/server/workspace/choices.ts';
import { personList } from '$lib/server/person/person-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { person, may } = signedIn(event);
  const people = personList(event.locals.app);
  const group = event.url.searchParams.get('group') ?? '';
  return {
    group,
    groups: groupsOfPeople(event.locals.app),
    people: group === '' ? people : people.filter(({ groups }) => groups.includes(group)),
    bells: event.locals.app.later.view('people bells', person.id, null),
    mayEdit: may('look after people')
  };
};
