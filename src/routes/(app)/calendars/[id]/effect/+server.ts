import { CodedError } from '$lib/core/errors.ts';
import { calendarSchema } from '$lib/server/schema/calendar.ts';
import { read } from '$lib/server/schema/fields.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What the calendar in the request would move, if it were saved. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const { app } = event.locals;
    const id = Number(event.params.id);
    const input = read(calendarSchema, await jsonOf(event.request));
    if (!input.ok) throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]! });
    app.calendars.check(input.value);
    return app.effects.of(
      (facts) => ({
        ...facts,
        calendars: facts.calendars.map((calendar) => (calendar.id === id ? { id, ...input.value } : calendar))
      }),
      viewer
    );
  });
