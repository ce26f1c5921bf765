import { calendarList } from '$lib/server/calendar/calendar-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone, may } = signedIn(event);
  const { app } = event.locals;
  return { mayKeep: may('keep calendars'), calendars: calendarList(app, zone) };
};

export const actions: Actions = {
  add: (event) => {
    const { actor } = signedIn(event);
    const open = ['09:00-17:00'];
    const week = { mon: open, tue: open, wed: open, thu: open, fri: open };
    const { changeId, result } = event.locals.app.calendars.add(actor, {
      name: 'A new calendar',
      week,
      weeks: [],
      days: []
    });
    return { done: 'Calendar added.', changeId, goto: `/calendars/${result}` };
  }
};
