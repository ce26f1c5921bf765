import { setUpList } from '$lib/server/service/set-up.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const tower = app.tower.view(viewer);
  return {
    tower,
    setUp: setUpList(app)
  };
};
