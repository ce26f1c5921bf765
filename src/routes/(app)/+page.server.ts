import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const tower = app.tower.view(viewer);
  return {
    tower,
    empty: { tasks: app.stores.tasks.count() === 0, rules: app.source.liveRules().length === 0 },
    place: app.source.facts.workspace.zone.name
  };
};
