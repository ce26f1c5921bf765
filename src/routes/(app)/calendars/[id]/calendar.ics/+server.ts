import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import type { RequestHandler } from './$types';

/** The calendar as an iCalendar file. */
export const GET: RequestHandler = ({ locals, params }) => {
  try {
    const text = locals.app.calendars.writeFile(Number(params.id), new Date(locals.app.clock.now()));
    return new Response(text, {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': `attachment; filename="calendar-${Number(params.id)}.ics"`
      }
    });
  } catch (failure) {
    if (failure instanceof CodedError) error(404, failure.message);
    throw failure;
  }
};
