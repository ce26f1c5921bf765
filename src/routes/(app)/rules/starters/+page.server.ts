import { addStarter, starterList, startersOf } from '$lib/server/rule/rule-starters.ts';
import { orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { person } = signedIn(event);
  const { app } = event.locals;
  const weeks = app.later.each(
    'starter',
    person.id,
    startersOf(app).map(({ key }) => ({ key }))
  );
  return { starters: starterList(app), weeks: weeks.then((all) => all.filter((one) => one !== null)) };
};

export const actions: Actions = {
  take: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    return orFail({}, () => {
      const { changeId, result } = addStarter(event.locals.app, actor, String(form.get('key') ?? ''));
      return { done: 'Draft added. It does not ring yet.', changeId, goto: `/rules/${result}` };
    });
  }
};
