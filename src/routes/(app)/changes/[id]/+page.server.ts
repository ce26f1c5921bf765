import { many } from '$lib/core/many.ts';
import { error, fail } from '@sveltejs/kit';
import { CodedError, errorSentence } from '$lib/core/errors.ts';
import { stampOf } from '$lib/server/effect/stamp.ts';
import { changeView, isLongChange } from '$lib/server/record/change-views.ts';
import { undoneWords } from '$lib/server/record/undone-words.ts';
import { signedIn, undoerOf } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { app } = event.locals;
  const { viewer, person, may } = signedIn(event);
  const id = Number(event.params.id);
  const page = { id, readsJournal: may('watch the whole team') };
  if (isLongChange(app, id))
    return { ...page, change: null, later: app.later.view('change', person.id, { id }) };
  const change = changeView(app, id, viewer, undoerOf(event));
  if (!change) error(404, errorSentence('change-gone'));
  return { ...page, change, later: null };
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
      return `Undone.${undoneWords(app, result)}`;
    }),
  tell: (event) =>
    doing(event, async () => {
      const { app } = event.locals;
      const { actor, person, viewer } = signedIn(event);
      const id = Number(event.params.id);
      const change = isLongChange(app, id)
        ? await app.later.view('change', person.id, { id })
        : changeView(app, id, viewer, undoerOf(event));
      if (!change?.undone) throw new CodedError('nobody-to-tell');
      const told = app.takenBack.tell(actor, change.undone.changeId);
      return `${many(told, 'person is', 'people are')} told that it was undone.`;
    })
};
