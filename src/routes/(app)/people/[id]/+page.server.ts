import { error, fail } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { WEEKDAYS } from '$lib/core/calendar/spec.ts';
import { MS_PER_DAY, formatDay, parseDay } from '$lib/core/time/day.ts';
import { shortDay, shortMoment } from '$lib/core/time/format.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { zoneNamed } from '$lib/core/time/zone.ts';
import { personChoices } from '$lib/server/service/person-views.ts';
import { signedIn } from '$lib/server/web.ts';
import { orFail, readPersonForm } from '$lib/server/web-forms.ts';
import type { Actions, PageServerLoad } from './$types';

const LISTED_HOLIDAYS = 12;

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  const person = app.stores.people.byId(Number(event.params.id));
  if (!person) error(404, errorSentence('person-gone'));
  const now = app.clock.now();
  const theirs = zoneNamed(person.zone);
  const calendar = app.stores.calendars.all().find(({ id }) => id === person.calendarId)!;
  const today = formatDay(theirs.dayOf(now));
  return {
    name: person.name,
    values: { ...person, email: person.email ?? '' },
    choices: personChoices(app, person.id),
    there: `${shortMoment(now, theirs)} in ${placeOfZone(person.zone)}`,
    calendar: calendar.name,
    week: WEEKDAYS.map((weekday) => ({ weekday, open: (calendar.week[weekday] ?? []).join(', ') })),
    holidays: calendar.days
      .filter(({ date }) => date >= today)
      .slice(0, LISTED_HOLIDAYS)
      .map(({ date, name, intervals }) => ({
        date: shortDay(parseDay(date), theirs.dayOf(now)),
        name: name ?? 'closed',
        hours: intervals.length > 0 ? intervals.join(', ') : 'closed'
      })),
    bells: app.forecasts
      .bells(now, now + 14 * MS_PER_DAY, zone)
      .filter(({ recipientId, readerId }) => recipientId === person.id || readerId === person.id)
  };
};

export const actions: Actions = {
  default: async (event) => {
    const { actor } = signedIn(event);
    const { input, values } = await readPersonForm(event.request);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      const { changeId } = event.locals.app.people.edit(actor, Number(event.params.id), input.value);
      return { done: `${input.value.name} was saved.`, changeId };
    });
  }
};
