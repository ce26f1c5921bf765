import { WEEKDAYS } from '$lib/core/calendar/spec.ts';
import { MS_PER_DAY, formatDay, parseDay } from '$lib/core/time/day.ts';
import { clockTime, shortDay } from '$lib/core/time/format.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { zoneNamed } from '$lib/core/time/zone.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  const now = app.clock.now();
  const calendars = new Map(app.stores.calendars.all().map((calendar) => [calendar.id, calendar]));
  const people = app.stores.people.all();
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const bells = app.forecasts.bells(now, now + 7 * MS_PER_DAY, zone).filter(({ unrung }) => unrung === null);
  return {
    people: people.map((person) => {
      const theirs = zoneNamed(person.zone);
      const calendar = calendars.get(person.calendarId);
      const today = formatDay(theirs.dayOf(now));
      const next = calendar?.days.find(({ date, intervals }) => date >= today && intervals.length === 0);
      const compiled = app.source.facts.people.get(person.id)!.calendar;
      return {
        id: person.id,
        name: person.name,
        role: person.role,
        email: person.email,
        place: placeOfZone(person.zone),
        localTime: `${shortDay(theirs.dayOf(now)).slice(0, 3)} ${clockTime(now, theirs)}`,
        working: compiled.spans.contains(now),
        calendar: calendar?.name ?? '',
        week: WEEKDAYS.map((weekday) => ({ weekday, open: (calendar?.week[weekday] ?? []).join(', ') })),
        holiday: next ? { date: shortDay(parseDay(next.date), theirs.dayOf(now)), name: next.name } : null,
        manager: person.managerId === null ? null : (names.get(person.managerId) ?? null),
        bells: bells.filter(({ readerId }) => readerId === person.id).length
      };
    })
  };
};
