import { error, fail, redirect } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { setSessionCookie } from '$lib/server/auth/cookie.ts';
import { firstCoordinatorSchema } from '$lib/server/account/schema.ts';
import { read } from '$lib/server/input/fields.ts';
import { zoneChoices } from '$lib/server/person/zone-choices.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) => {
  if (!locals.app.setup.isFresh() || !locals.app.auth.isFirstLink(params.token))
    error(410, errorSentence('link-spent'));
  return { zones: zoneChoices(locals.app.clock.now()) };
};

export const actions: Actions = {
  default: async ({ request, locals, params, cookies, url }) => {
    const form = Object.fromEntries(await request.formData()) as Record<string, string>;
    const input = read(firstCoordinatorSchema, form);
    const { password: _, ...shown } = form;
    if (!input.ok) return fail(400, { values: shown, errors: input.errors, message: '' });
    try {
      setSessionCookie(cookies, url, await locals.app.setup.begin(params.token, input.value));
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, { values: shown, errors: {}, message: failure.message });
    }
    redirect(303, '/');
  }
};
