import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { runDetail } from '$lib/server/rule/run-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer } = signedIn(event);
  const run = runDetail(event.locals.app, Number(event.params.run), viewer);
  if (!run || run.rule.id !== Number(event.params.id)) error(404, errorSentence('run-gone'));
  return { run };
};
