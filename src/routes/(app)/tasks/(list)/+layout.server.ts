import { columnsView, daysView } from '$lib/server/task/task-shapes.ts';
import { taskChoices } from '$lib/server/task/task-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { sentRow, withRows } from '$lib/view/sent-rows.ts';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = (event) => {
  event.depends('early-bell:tasks');
  const { viewer, sight, person, may } = signedIn(event);
  const { app } = event.locals;
  const { searchParams } = event.url;
  const { taskLists: lists } = app;
  const query = lists.read(searchParams);
  const asked = { month: searchParams.get('month'), week: searchParams.has('week') };
  const { shape } = query;
  const columns = shape === 'columns' ? columnsView(app, query, viewer, sight) : null;
  const days = shape === 'days' ? daysView(app, query, asked, viewer, sight) : null;
  return {
    query,
    page: shape === 'rows' ? withRows(lists.page(query, null, viewer, sight), sentRow) : null,
    columns: columns && { columns: columns.columns.map((column) => withRows(column, sentRow)) },
    days: days && { ...days, days: days.days.map((day) => withRows(day, sentRow)) },
    ...lists.totals(shape === 'rows' ? query : { ...query, group: null }, viewer, sight),
    saved: app.savedLists.of(person.id),
    any: lists.any(),
    choices: taskChoices(app, sight),
    hand: may('make rules') ? app.handRings.buttons().filter(({ places }) => places.includes('list')) : [],
    me: person.id,
    tower: may('watch the whole team')
  };
};
