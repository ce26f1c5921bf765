import { groupsOfPeople } from '$lib/server/workspace/choices.ts';
import { personList } from '$lib/server/person/person-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

/** So many people are listed at once; a page of more weighs too much where there are hundreds. */
const LISTED = 80;

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { person, may } = signedIn(event);
  const asked = event.url.searchParams;
  const group = asked.get('group') ?? '';
  const everybody = personList(event.locals.app);
  const people = group === '' ? everybody : everybody.filter(({ groups }) => groups.includes(group));
  return {
    group,
    groups: groupsOfPeople(event.locals.app),
    count: people.length,
    people: asked.has('all') ? people : people.slice(0, LISTED),
    silent: people
      .filter(({ active, unreachable }) => active && unreachable)
      .map(({ id, name, unreachable }) => ({ id, name, unreachable })),
    bells: event.locals.app.later.view('people bells', person.id, null),
    adoption: may('watch the whole team') ? event.locals.app.later.view('adoption', person.id, null) : null,
    mayEdit: may('look after people')
  };
};
