import { lackingYear } from '$lib/core/calendar/lacking.ts';
import { WEEKDAYS } from '$lib/core/calendar/spec.ts';
import { formatDay, parseDay } from '$lib/core/time/day.ts';
import { shortDay } from '$lib/core/time/format.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone, may } = signedIn(event);
  const { app } = event.locals;
  const today = zone.dayOf(app.clock.now());
  const people = app.stores.people.all();
  const workspaceCalendar = app.stores.settings.workspace()?.calendarId;
  return {
    mayKeep: may('keep calendars'),
    calendars: app.stores.calendars.all().map(({ id, name, week, weeks, days }) => {
      const next = days.find(({ date, intervals }) => date >= formatDay(today) && intervals.length === 0);
      return {
        id,
        name,
        week: WEEKDAYS.map((weekday) => ({ weekday, open: (week[weekday] ?? []).join(', ') })),
        later: weeks.map(({ from }) => shortDay(parseDay(from), today)),
        people: people.filter(({ calendarId, active }) => active && calendarId === id).map((one) => one.name),
        isWorkspace: workspaceCalendar === id,
        next: next ? `${shortDay(parseDay(next.date), today)}, ${next.name ?? 'closed'}` : null,
        lacks: lackingYear(days, today),
        until: days.length > 0 ? days[days.length - 1]!.date.slice(0, 4) : null
      };
    })
  };
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
