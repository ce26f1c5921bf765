import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { formatDay } from '$lib/core/time/day.ts';
import { clockTime } from '$lib/core/time/format.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { digestSchema } from '$lib/server/digest/schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { digestView } from '$lib/server/digest/digest-view.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail, parsed } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { app } = event.locals;
  const { zone, person, sight } = signedIn(event);
  const now = app.clock.now();
  const view =
    digestView(app, Number(event.params.id), { zone, sight }) ??
    error(404, { message: errorSentence('digest-gone') });
  return {
    ...view,
    me: person.id,
    place: placeOfZone(zone.name),
    now: { date: formatDay(zone.dayOf(now)), time: clockTime(now, zone) }
  };
};

export const actions: Actions = {
  save: async (event) => {
    const form = await event.request.formData();
    return orFail({}, () => {
      const input = readOrRefuse(digestSchema, parsed(form.get('digest')));
      const { changeId } = event.locals.app.digests.save(
        signedIn(event).actor,
        Number(event.params.id),
        input
      );
      return { done: `“${input.name}” was saved.`, changeId };
    });
  },
  turn: async (event) => {
    const form = await event.request.formData();
    return orFail({}, () => {
      const state = form.get('state') === 'on' ? 'on' : 'off';
      const { changeId } = event.locals.app.digests.turn(
        signedIn(event).actor,
        Number(event.params.id),
        state
      );
      return { done: state === 'on' ? 'The digest is on.' : 'The digest is off. Nothing is sent.', changeId };
    });
  },
  drop: (event) =>
    orFail({}, () => {
      const { changeId } = event.locals.app.digests.drop(signedIn(event).actor, Number(event.params.id));
      return { done: 'Digest removed.', changeId, goto: '/digests' };
    })
};
