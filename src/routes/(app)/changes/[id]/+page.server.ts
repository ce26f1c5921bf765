import { error, fail } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { stampOf } from '$lib/server/schema/stamp.ts';
import { changeView } from '$lib/server/service/change-views.ts';
import { undoneWords } from '$lib/server/service/undone-words.ts';
import { signedIn, undoerOf } from '$lib/server/web.ts';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer, may } = signedIn(event);
  const change = changeView(event.locals.app, Number(event.params.id), viewer, undoerOf(event));
  if (!change) error(404, errorSentence('change-gone'));
  return { change, readsJournal: may('watch the whole team') };
};

async function doing(event: RequestEvent, work: () => string | Promise<string>) {
  try {
    const done = await work();
    return { done };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return fail(400, { errors: { '': failure.message } });
  }
}

export const actions: Actions = {
  undo: (event) =>
    doing(event, async () => {
      const { app } = event.locals;
      const { person } = signedIn(event);
      const stamp = stampOf((await event.request.formData()).get('stamp'));
      const id = Number(event.params.id);
      const { result } = await app.longActs.do(person.id, { act: 'undo', changeId: id }, stamp);
      await app.engine.tick();
      return `Taken back.${undoneWords(app, result)}`;
    }),
  tell: (event) =>
    doing(event, () => {
      const { app } = event.locals;
      const { actor, viewer } = signedIn(event);
      const change = changeView(app, Number(event.params.id), viewer, undoerOf(event));
      if (!change?.undone) throw new CodedError('nobody-to-tell');
      const told = app.takenBack.tell(actor, change.undone.changeId);
      return `${told === 1 ? 'One person is' : `${told} people are`} told that it was taken back.`;
    })
};
