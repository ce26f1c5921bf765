import { CodedError } from '$lib/core/errors.ts';
import { CATCH_UP_ANSWERS } from '$lib/server/tower/tower.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer, sight, person } = signedIn(event);
  const { app } = event.locals;
  const tower = app.tower.view(viewer);
  return {
    tower,
    day: app.later.view('tower day', person.id, null),
    adoption: app.later.view('adoption', person.id, null),
    ladders: app.escalations.brief(viewer),
    tallies: app.taskLists.tallies(person.id, viewer, sight),
    begin: app.begin.view(),
    sample: app.sample.view()
  };
};

const ANSWERS = {
  send: 'They will be sent.',
  gather: 'They will be combined.',
  'do not ring': 'They will not be sent.'
};

export const actions: Actions = {
  week: async (event) => {
    const { changeId } = event.locals.app.begin.confirmWeek(signedIn(event).actor);
    return { done: 'Time zone and week are marked as right.', changeId };
  },
  begin: async (event) => {
    const away = (await event.request.formData()).get('away') === 'yes';
    const { changeId } = event.locals.app.begin.putAway(signedIn(event).actor, away);
    return {
      done: away ? 'Begin was put away. Settings brings it back.' : 'Begin is on the Bell tower again.',
      changeId
    };
  },
  sample: (event) => {
    const laid = event.locals.app.sample.layIn(signedIn(event).actor);
    return laid
      ? { done: 'Sample tasks are in the list.', changeId: laid.changeId }
      : { done: 'There are tasks already. No sample tasks were added.' };
  },
  unsample: (event) =>
    orFail(null, () => {
      const gone = event.locals.app.sample.remove(signedIn(event).actor);
      return gone
        ? { done: 'The sample tasks are gone.', changeId: gone.changeId }
        : { done: 'There are no sample tasks.' };
    }),
  standing: async (event) => {
    const answer = String((await event.request.formData()).get('answer'));
    const { engine, outbox } = event.locals.app;
    return orFail(null, () => {
      const known = CATCH_UP_ANSWERS.find((one) => one === answer);
      if (!known) throw new CodedError('engine-rings');
      engine.answer(known);
      outbox.start();
      return { done: 'Rules run again.' };
    });
  },
  uncount: async (event) => {
    const form = await event.request.formData();
    return orFail(null, () => {
      const { actor } = signedIn(event);
      const { changeId } = event.locals.app.savedLists.count(actor, idOf(form, 'list') ?? 0, false);
      return { done: 'The count was removed. The list remains.', changeId };
    });
  },
  works: async (event) => {
    const address = String((await event.request.formData()).get('address'));
    event.locals.app.outbox.worksAgain(address);
    return { done: `Mail goes to ${address} again.` };
  },
  rush: async (event) => {
    const form = await event.request.formData();
    const answer = String(form.get('answer')) as keyof typeof ANSWERS;
    return orFail(null, () => {
      if (!(answer in ANSWERS)) throw new CodedError('rush-answered');
      event.locals.app.handRings.answerRush(signedIn(event).actor, idOf(form, 'rush') ?? 0, answer);
      return { done: ANSWERS[answer] };
    });
  }
};
