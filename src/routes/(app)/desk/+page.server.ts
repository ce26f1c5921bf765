import { deskView } from '$lib/server/desk/desk-views.ts';
import { rhythmAsked } from '$lib/server/desk/asked.ts';
import { waitingFor } from '$lib/server/desk/waiting.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const who = signedIn(event);
  const { app } = event.locals;
  const { id } = who.person;
  app.placing.look(id);
  return {
    desk: deskView(app, { personId: id, sight: who.sight, rhythm: rhythmAsked(event.url.searchParams) }),
    waiting: waitingFor(app, who),
    things: app.deskThings.view(who),
    bells: app.later.view('desk bells', id, { id }),
    people: who.sight.reports.length > 0 ? app.later.view('my people', id, null) : null,
    ladders: app.later.view('desk ladders', id, null)
  };
};
