import { error, fail } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { calendarView } from '$lib/server/calendar/calendar-views.ts';
import { calendarSchema } from '$lib/server/calendar/schema.ts';
import { read } from '$lib/server/input/fields.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { zone, may } = signedIn(event);
  const { app } = event.locals;
  const calendar =
    calendarView(app, Number(event.params.id), zone) ?? error(404, errorSentence('calendar-gone'));
  return {
    ...calendar,
    countries: may('keep calendars') ? app.calendars.countries() : [],
    mayKeep: may('keep calendars')
  };
};

export const actions: Actions = {
  save: async (event) => {
    const { actor } = signedIn(event);
    const input = read(
      calendarSchema,
      parsed(String((await event.request.formData()).get('calendar') ?? ''))
    );
    if (!input.ok) return fail(400, { message: Object.values(input.errors)[0]! });
    try {
      const { changeId } = event.locals.app.calendars.save(actor, Number(event.params.id), input.value);
      return { done: `“${input.value.name}” was saved.`, changeId };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(400, { message: failure.message });
      throw failure;
    }
  },
  remove: (event) => {
    const { actor } = signedIn(event);
    try {
      const { changeId } = event.locals.app.calendars.remove(actor, Number(event.params.id));
      return { done: 'Calendar removed.', changeId, goto: '/calendars' };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(400, { message: failure.message });
      throw failure;
    }
  }
};

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // What is no JSON is no calendar either: the schema says so.
    return null;
  }
}
