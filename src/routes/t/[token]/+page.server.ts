import { CodedError } from '$lib/core/errors.ts';
import { linkStatus } from '$lib/server/web/link-status.ts';
import type { PageServerLoad } from './$types';

/** Shows what can be done about a text message. Reading it changes nothing. */
export const load: PageServerLoad = ({ locals, params, setHeaders }) => {
  setHeaders({ 'cache-control': 'no-store', 'x-robots-tag': 'noindex' });
  try {
    return { message: locals.app.textLinks.view(params.token), problem: null };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    locals.status = linkStatus(failure.code);
    return { message: null, problem: failure.message };
  }
};
