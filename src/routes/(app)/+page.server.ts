import { CodedError } from '$lib/core/errors.ts';
import { setUpList } from '$lib/server/service/set-up.ts';
import { signedIn } from '$lib/server/web.ts';
import { idOf, orFail } from '$lib/server/web-forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const tower = app.tower.view(viewer);
  return {
    tower,
    setUp: setUpList(app)
  };
};

const ANSWERS = {
  send: 'They are on their way.',
  gather: 'They come gathered.',
  'do not ring': 'They do not ring.'
};

export const actions: Actions = {
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
