import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import type { Actions, PageServerLoad } from './$types';

/** Shows what a link in a message does. Reading it changes nothing: programs open links in mail too. */
export const load: PageServerLoad = ({ locals, params, setHeaders }) => {
  setHeaders({ 'cache-control': 'no-store', 'x-robots-tag': 'noindex' });
  try {
    return { link: locals.app.actLinks.view(params.token), problem: null };
  } catch (failure) {
    if (failure instanceof CodedError) return { link: null, problem: failure.message };
    throw failure;
  }
};

export const actions: Actions = {
  default: async ({ locals, params, request }) => {
    const form = await request.formData();
    const value = String(form.get('picked') || form.get('value') || '');
    try {
      return { done: locals.app.actLinks.perform(params.token, value) };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(400, { problem: failure.message });
      throw failure;
    }
  }
};
