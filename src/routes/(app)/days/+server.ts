import { daysView } from '$lib/server/calendar/day-views.ts';
import { daysSchema } from '$lib/server/calendar/days-schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** The working and closed days by which a date field reads: `{task: {owner, project}}`, `{person}`, or `{}` for one's own. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const of = readOrRefuse(daysSchema, await jsonParts(event.request));
    return daysView(event.locals.app, signedIn(event).person.id, of);
  });
