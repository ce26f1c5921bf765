import { SWEEP_ACTS } from '$lib/core/sweep/model.ts';
import { CodedError } from '$lib/core/errors.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { standingTasks, sweepBars, sweepList, sweepReports } from '$lib/server/sweep/sweep-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  return {
    sweeps: sweepList(app, zone),
    reports: sweepReports(app, null, zone),
    bars: sweepBars(app, zone),
    listed: standingTasks(app),
    place: placeOfZone(zone.name)
  };
};

export const actions: Actions = {
  add: async (event) => {
    const form = await event.request.formData();
    return orFail({}, () => {
      const act = SWEEP_ACTS.find((one) => one === form.get('act'));
      if (!act) throw new CodedError('bad-field', { detail: 'Choose what it does' });
      const { changeId, result } = event.locals.app.sweeps.add(signedIn(event).actor, act);
      return { done: 'Sweep added. It is off.', changeId, goto: `/sweeps/${result}` };
    });
  }
};
