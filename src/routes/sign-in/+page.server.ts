import { demoPeople } from '$lib/server/account/demo-people.ts';
import { fail, redirect } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { SESSION_COOKIE } from '$lib/server/auth/auth.ts';
import { setSessionCookie } from '$lib/server/auth/cookie.ts';
import { read, type FieldErrors } from '$lib/server/input/fields.ts';
import { ownPath } from '$lib/server/web/origins.ts';
import { signInSchema } from '$lib/server/account/schema.ts';
import type { Actions, PageServerLoad } from './$types';

/** When somebody may try again where others are being let in just now. */
const BUSY_SECONDS = 3;

export const load: PageServerLoad = ({ locals, url }) => {
  if (locals.person) redirect(303, '/');
  const { demo } = locals.app.options;
  return {
    fresh: locals.app.setup.isFresh(),
    to: ownPath(url.searchParams.get('to')),
    demoPeople: demo ? demoPeople(locals.app) : []
  };
};

export const actions: Actions = {
  default: async ({ request, locals, cookies, url, getClientAddress, setHeaders }) => {
    const form = Object.fromEntries(await request.formData());
    const input = read(signInSchema, form);
    const email = String(form.email ?? '');
    if (!input.ok) return fail(400, { email, errors: input.errors, message: '' });
    try {
      setSessionCookie(
        cookies,
        url,
        await locals.app.auth.signIn(
          input.value.email,
          input.value.password,
          getClientAddress(),
          cookies.get(SESSION_COOKIE)
        )
      );
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      const waits = error.code === 'sign-in-slowed' || error.code === 'sign-in-busy';
      // RFC 6585 §4.
      if (waits) setHeaders({ 'retry-after': String(error.params.seconds ?? BUSY_SECONDS) });
      const errors: FieldErrors = {};
      return fail(waits ? 429 : 400, { email, errors, message: error.message });
    }
    redirect(303, ownPath(String(form.to ?? '')));
  }
};
