import { columnsView, daysView } from '$lib/server/task/task-shapes.ts';
import { taskChoices } from '$lib/server/task/task-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = (event) => {
  event.depends('early-bell:tasks');
  const { viewer, sight, person, may } = signedIn(event);
  const { app } = event.locals;
  const { searchParams } = event.url;
  const { taskLists: lists } = app;
  const query = lists.read(searchParams);
  return {
    query,
    page: query.shape === 'rows' ? lists.page(query, null, viewer, sight) : null,
    columns: query.shape === 'columns' ? columnsView(app, query, viewer, sight) : null,
    days: query.shape === 'days' ? daysView(app, query, searchParams.get('month'), viewer, sight) : null,
    ...lists.totals(query.shape === 'rows' ? query : { ...query, group: null }, viewer, sight),
    saved: app.savedLists.of(person.id),
    any: lists.any(),
    choices: taskChoices(app, sight),
    hand: may('make rules') ? app.handRings.buttons().filter(({ places }) => places.includes('list')) : [],
    me: person.id,
    tower: may('watch the whole team')
  };
};
