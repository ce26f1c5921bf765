import { calendarSchema } from '$lib/server/calendar/schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What the calendar in the request would move, if it were saved. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const { app } = event.locals;
    const id = Number(event.params.id);
    const input = readOrRefuse(calendarSchema, await jsonOf(event.request));
    app.calendars.check(input);
    return app.effects.of(
      (facts) => ({
        ...facts,
        calendars: facts.calendars.map((calendar) => (calendar.id === id ? { id, ...input } : calendar))
      }),
      viewer
    );
  });
