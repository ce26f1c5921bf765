import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { channelNamed } from '$lib/core/channel/channels.ts';
import {
  channelFieldOf,
  channelForm,
  channelSettingsSchema,
  HIDDEN
} from '$lib/server/settings/channel/form.ts';
import { read } from '$lib/server/input/fields.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals: { app } }) => ({
  set: app.channelSettings.view(),
  open: app.channels.open()
});

export const actions: Actions = {
  save: async (event) => {
    const { actor } = signedIn(event);
    const form = Object.fromEntries(await event.request.formData()) as Record<string, string>;
    // What was typed comes back to be mended, but for what nobody should read over a shoulder.
    const given = Object.fromEntries(Object.entries(form).filter(([name]) => !HIDDEN.includes(name)));
    const failed = (errors: Record<string, string>) =>
      fail(400, {
        given,
        errors: Object.fromEntries(
          Object.entries(errors).map(([path, words]) => [channelFieldOf(path, form), words])
        )
      });
    const input = read(channelSettingsSchema, channelForm(form));
    if (!input.ok) return failed(input.errors);
    try {
      await event.locals.app.channelSettings.check(input.value);
      const { changeId } = event.locals.app.channelSettings.save(actor, input.value);
      event.locals.app.health.forget();
      return { done: 'Saved. Used from the next message.', changeId };
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return failed({ [failure.field ?? '']: failure.message });
    }
  },

  test: async (event) => {
    const { person } = signedIn(event);
    const channel = channelNamed((await event.request.formData()).get('channel')) ?? 'mail';
    try {
      const { arrived, words } = await event.locals.app.channelTest.sendAndWait(person.id, channel);
      return arrived ? { done: words } : fail(400, { given: {}, errors: { [`test ${channel}`]: words } });
    } catch (failure) {
      if (!(failure instanceof CodedError)) throw failure;
      return fail(400, { given: {}, errors: { [`test ${channel}`]: failure.message } });
    }
  }
};
