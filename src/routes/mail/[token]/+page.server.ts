import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { linkStatus } from '$lib/server/web/link-status.ts';
import type { Actions, PageServerLoad } from './$types';

/** Shows which mail a link stops. Reading it changes nothing: programs open links in mail too. */
export const load: PageServerLoad = ({ locals, params, setHeaders }) => {
  setHeaders({ 'cache-control': 'no-store', 'x-robots-tag': 'noindex' });
  try {
    return { mail: locals.app.mailStops.view(params.token), problem: null };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    locals.status = linkStatus(failure.code);
    return { mail: null, problem: failure.message };
  }
};

export const actions: Actions = {
  /** A mail program posts `List-Unsubscribe=One-Click` (RFC 8058 §3.1): whatever is posted stops the mail, but for the button that takes it back. */
  default: async ({ locals, params, request }) => {
    const form = await request.formData();
    const { mailStops } = locals.app;
    try {
      if (form.get('do') === 'go on') mailStops.goOn(params.token);
      else mailStops.stop(params.token);
      return { done: true };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(linkStatus(failure.code), { problem: failure.message });
      throw failure;
    }
  }
};
