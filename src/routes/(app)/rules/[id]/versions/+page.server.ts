import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { RuleVersionView } from '$lib/view/rules.ts';
import type { Actions, PageServerLoad, PageServerLoadEvent } from './$types';

export const load: PageServerLoad = (event) => {
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  const opened = app.rules.open(id);
  if (!opened) error(404, errorSentence('rule-gone'));
  const versions = app.ruleCopies.versions(id, viewer, app.clock.now());
  return { id, name: opened.rule.name, versions, compared: compared(event, versions) };
};

/** The two versions that the address names, beside each other: what they say, and what each would send. */
function compared(event: PageServerLoadEvent, versions: readonly RuleVersionView[]) {
  const { app } = event.locals;
  const { viewer } = signedIn(event);
  const numberIn = (name: string) => Number(event.url.searchParams.get(name));
  const of = (number: number) => versions.find((version) => version.number === number);
  const [before, after] = [of(numberIn('from')), of(numberIn('to'))];
  if (!before || !after) return null;
  const id = Number(event.params.id);
  return {
    from: before.number,
    to: after.number,
    differences: app.ruleCopies.differences(id, before.id, after.id),
    beside: app.outlooks.betweenVersions(id, before.id, after.id, viewer)
  };
}

export const actions: Actions = {
  restore: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const id = Number(event.params.id);
    return orFail({}, () => {
      const { changeId } = event.locals.app.ruleCopies.restore(actor, id, Number(form.get('version')));
      return {
        done: 'Draft saved. Make it live to use it.',
        changeId,
        goto: `/rules/${id}`
      };
    });
  }
};
