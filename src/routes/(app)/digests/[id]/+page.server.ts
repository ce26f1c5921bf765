import { listChoices } from '$lib/server/rule/list-choices.ts';
import { error } from '@sveltejs/kit';
import { errorSentence } from '$lib/core/errors.ts';
import { digestReaders } from '$lib/core/digest/readers.ts';
import { formatDay } from '$lib/core/time/day.ts';
import { clockTime } from '$lib/core/time/format.ts';
import { placeOfZone, zoneNames } from '$lib/core/time/zone-names.ts';
import { digestSchema } from '$lib/server/digest/schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { digestList, digestRuns } from '$lib/server/digest/digest-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { orFail, parsed } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { app } = event.locals;
  const { zone, person } = signedIn(event);
  const id = Number(event.params.id);
  const digest = app.stores.digests.byId(id) ?? error(404, { message: errorSentence('digest-gone') });
  const now = app.clock.now();
  const named = (one: { id: number; name: string }) => ({ id: one.id, name: one.name });
  return {
    digest: { id, name: digest.name, description: digest.description, definition: digest.definition },
    row: digestList(app, zone).find((row) => row.id === id)!,
    runs: digestRuns(app, id, zone),
    readers: digestReaders(digest.definition, app.source.facts, digest.keeperId).map(named),
    me: person.id,
    place: placeOfZone(zone.name),
    now: { date: formatDay(zone.dayOf(now)), time: clockTime(now, zone) },
    choices: {
      people: app.stores.people
        .all()
        .filter(({ active, erased }) => active && !erased)
        .map(named),
      groups: app.stores.people.groups().map(named),
      readers: app.stores.readers.lists().map(named),
      projects: app.stores.projects.all().map(named),
      lists: listChoices(app, person.id),
      tags: app.stores.taskParts.allTags(signedIn(event).sight),
      zones: zoneNames()
    }
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
