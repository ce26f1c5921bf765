import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { sweepSchema } from '$lib/server/sweep/schema.ts';
import { ruleChoices } from '$lib/server/rule/rule-choices.ts';
import { sweepAsWritten, sweepList, sweepReports } from '$lib/server/sweep/sweep-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail, parsed } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { app } = event.locals;
  const { zone, viewer } = signedIn(event);
  const id = Number(event.params.id);
  const sweep = sweepAsWritten(app, id) ?? error(404, { message: errorSentence('sweep-gone') });
  return {
    sweep,
    row: sweepList(app, zone).find((row) => row.id === id)!,
    runs: sweepReports(app, id, zone),
    choices: ruleChoices(app, 0, viewer),
    place: placeOfZone(zone.name)
  };
};

export const actions: Actions = {
  save: async (event) => {
    const form = await event.request.formData();
    return orFail({}, () => {
      const input = readOrRefuse(sweepSchema, parsed(form.get('sweep')));
      const { sweeps } = event.locals.app;
      const { changeId } = sweeps.save(signedIn(event).actor, Number(event.params.id), input);
      return { done: `“${input.name}” was saved.`, changeId };
    });
  },
  turn: async (event) => {
    const form = await event.request.formData();
    return orFail({}, () => {
      const state = form.get('state') === 'on' ? 'on' : 'off';
      const { changeId } = event.locals.app.sweeps.turn(
        signedIn(event).actor,
        Number(event.params.id),
        state
      );
      return {
        done: state === 'on' ? 'The sweep is on.' : 'The sweep is off. It only runs by hand.',
        changeId
      };
    });
  },
  look: (event) =>
    orFail({}, () => {
      const runId = event.locals.app.sweeps.look(Number(event.params.id));
      return { done: 'Making the list. Nothing is changed yet.', goto: `/sweeps/runs/${runId}` };
    }),
  drop: (event) =>
    orFail({}, () => {
      const { changeId } = event.locals.app.sweeps.drop(signedIn(event).actor, Number(event.params.id));
      return { done: 'Sweep removed. Its changes remain.', changeId, goto: '/sweeps' };
    })
};
