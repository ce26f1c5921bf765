import { demoPerson } from '$lib/server/account/demo-people.ts';
import { error, redirect } from '@sveltejs/kit';
import { SESSION_COOKIE } from '$lib/server/auth/auth.ts';
import { setSessionCookie } from '$lib/server/auth/cookie.ts';
import { ownPath } from '$lib/server/web/origins.ts';
import type { RequestHandler } from './$types';

/** Signs a person of the demo in by one press. Outside the demo there is no such address. */
export const POST: RequestHandler = async ({ request, locals, cookies, url }) => {
  if (!locals.app.options.demo) error(404, 'There is nothing at this address.');
  const form = await request.formData();
  const person = demoPerson(locals.app, Number(form.get('person')));
  if (!person) error(404, 'The demo has no such person.');
  setSessionCookie(cookies, url, locals.app.auth.signInAs(person.id, cookies.get(SESSION_COOKIE)));
  redirect(303, ownPath(String(form.get('to') ?? '/')));
};
