import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { ruleList } from '$lib/server/rule/rule-list.ts';
import { orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { viewer, person } = signedIn(event);
  const { app } = event.locals;
  return {
    rules: ruleList(app, viewer),
    weeks: app.later.view('rule weeks', person.id, null),
    place: placeOfZone(viewer.zone.name)
  };
};

export const actions: Actions = {
  add: (event) => {
    const { actor } = signedIn(event);
    const { changeId, result } = event.locals.app.rules.add(actor);
    return { done: 'Draft rule added.', changeId, goto: `/rules/${result}` };
  },
  move: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    return orFail({}, () => {
      const by = form.get('by') === 'up' ? -1 : 1;
      const { changeId } = event.locals.app.rules.move(actor, Number(form.get('rule')), by);
      return { done: 'Order changed. At the same time, rules ring in this order.', changeId };
    });
  }
};
