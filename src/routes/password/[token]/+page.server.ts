import { error, fail, redirect } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { setSessionCookie } from '$lib/server/auth/cookie.ts';
import { passwordSchema } from '$lib/server/account/schema.ts';
import { read } from '$lib/server/input/fields.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) => {
  const person = locals.app.auth.personOfLink(params.token);
  if (!person) error(410, errorSentence('link-spent'));
  return { name: person.name, email: person.email ?? '' };
};

export const actions: Actions = {
  default: async ({ request, locals, params, cookies, url }) => {
    const input = read(passwordSchema, Object.fromEntries(await request.formData()));
    if (!input.ok) return fail(400, { message: Object.values(input.errors)[0]! });
    try {
      setSessionCookie(
        cookies,
        url,
        await locals.app.auth.choosePassword(params.token, input.value.password)
      );
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, { message: failure.message });
    }
    redirect(303, '/');
  }
};
