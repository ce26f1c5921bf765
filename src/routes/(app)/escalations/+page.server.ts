import { ESCALATIONS_ONLY } from '$lib/view/escalations.ts';
import { activePeople } from '$lib/server/workspace/choices.ts';
import { formatDay } from '$lib/core/time/day.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import type { EscalationFilter } from '$lib/server/ladder/escalations.ts';
import { nextWorkingDay } from '$lib/server/task/promises.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import { acknowledgeHere, answerPromiseHere } from '$lib/server/web/promises.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { person, zone, may } = signedIn(event);
  const { app } = event.locals;
  const { searchParams } = event.url;
  const filter: EscalationFilter = {
    ruleId: Number(searchParams.get('rule')) || null,
    ownerId: Number(searchParams.get('person')) || null,
    only: ESCALATIONS_ONLY.find((one) => one === searchParams.get('only')) ?? null,
    page: Number(searchParams.get('page')) || 1
  };
  const today = zone.dayOf(app.clock.now());
  const facts = app.source.facts.people.get(person.id);
  return {
    ...(await app.later.view('escalations', person.id, filter)),
    people: activePeople(app),
    makesRules: may('make rules'),
    today: formatDay(today),
    nextDay: formatDay(facts ? nextWorkingDay(facts, today) : today + 1),
    place: placeOfZone(zone.name)
  };
};

export const actions: Actions = {
  acknowledge: async (event) => {
    const form = await event.request.formData();
    const taskId = idOf(form, 'task') ?? 0;
    return orFail({ taskId }, () => acknowledgeHere(event, taskId, form));
  },
  answer: async (event) => {
    const form = await event.request.formData();
    return orFail({ promise: idOf(form, 'promise') }, () => answerPromiseHere(event, form));
  }
};
