import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { runsOfRule } from '$lib/server/rule/run-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer } = signedIn(event);
  const rule = event.locals.app.rules.open(Number(event.params.id))?.rule;
  if (!rule) error(404, errorSentence('rule-gone'));
  return { rule: { id: rule.id, name: rule.name }, ...runsOfRule(event.locals.app, rule.id, viewer) };
};
