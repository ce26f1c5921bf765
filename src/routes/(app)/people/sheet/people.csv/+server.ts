import type { RequestHandler } from './$types';

/** Everybody as CSV. */
export const GET: RequestHandler = ({ locals }) =>
  new Response(locals.app.peopleSheet.write(), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="people.csv"'
    }
  });
