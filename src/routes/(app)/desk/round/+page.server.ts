import { roundIds } from '$lib/server/desk/round-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { person } = signedIn(event);
  const kind = event.url.searchParams.get('of') === 'evening' ? 'evening' : 'placing';
  return { kind, ids: roundIds(event.locals.app, person.id, kind) } as const;
};
