import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { linkStatus } from '$lib/server/web/link-status.ts';
import type { Actions, PageServerLoad } from './$types';

/** Shows what a link in a message does. Reading it changes nothing: programs open links in mail too. */
export const load: PageServerLoad = ({ locals, params, setHeaders }) => {
  setHeaders({ 'cache-control': 'no-store', 'x-robots-tag': 'noindex' });
  try {
    return { link: locals.app.actLinks.view(params.token), problem: null };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    locals.status = linkStatus(failure.code);
    return { link: null, problem: failure.message };
  }
};

export const actions: Actions = {
  do: async ({ locals, params, request }) => {
    const form = await request.formData();
    const value = String(form.get('picked') || form.get('value') || '');
    try {
      const { words, undoable } = locals.app.actLinks.perform(params.token, value);
      return { done: words, undoable };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(linkStatus(failure.code), { problem: failure.message });
      throw failure;
    }
  },
  undo: ({ locals, params }) => {
    try {
      return { done: locals.app.actLinks.undo(params.token), undoable: false };
    } catch (failure) {
      if (failure instanceof CodedError) return fail(linkStatus(failure.code), { problem: failure.message });
      throw failure;
    }
  }
};
