import { fail } from '@sveltejs/kit';
import { CodedError, type ErrorCode } from '$lib/core/errors.ts';
import type { Actions, PageServerLoad } from './$types';

/** With what a page answers whose link does nothing any more (RFC 9110): it is not ours, has had its time, is not theirs, or there is nothing left to do. */
const STATUS: Partial<Record<ErrorCode, number>> = {
  'link-broken': 404,
  'link-old': 410,
  'link-used': 410,
  'task-gone': 410,
  'task-not-yours': 403,
  'link-task-not-yours': 403,
  'link-task-over': 409
};

/** Shows what a link in a message does. Reading it changes nothing: programs open links in mail too. */
export const load: PageServerLoad = ({ locals, params, setHeaders }) => {
  setHeaders({ 'cache-control': 'no-store', 'x-robots-tag': 'noindex' });
  try {
    return { link: locals.app.actLinks.view(params.token), problem: null };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    locals.status = STATUS[failure.code] ?? 400;
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
      if (failure instanceof CodedError)
        return fail(STATUS[failure.code] ?? 400, { problem: failure.message });
      throw failure;
    }
  },
  undo: ({ locals, params }) => {
    try {
      return { done: locals.app.actLinks.undo(params.token), undoable: false };
    } catch (failure) {
      if (failure instanceof CodedError)
        return fail(STATUS[failure.code] ?? 400, { problem: failure.message });
      throw failure;
    }
  }
};
