import { settingsView } from '$lib/server/settings/settings-views.ts';
import { calendarChoices } from '$lib/server/workspace/choices.ts';
import { many } from '$lib/core/many.ts';
import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { PHASES } from '$lib/core/task/model.ts';
import { read } from '$lib/server/input/fields.ts';
import { fieldSchema } from '$lib/server/project/schema.ts';
import { settingsSchema, statusSchema } from '$lib/server/settings/schema.ts';
import { zoneChoices } from '$lib/server/person/zone-choices.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals: { app } }) => ({
  ...settingsView(app),
  calendars: calendarChoices(app),
  zones: zoneChoices(app.clock.now()),
  phases: PHASES,
  channels: app.channelSettings.view().now,
  begin: app.begin.view(),
  demo: app.options.demo
});

export const actions: Actions = {
  save: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event.request);
    const input = read(settingsSchema, form);
    if (!input.ok) return failed('settings', input.errors, form);
    const { changeId } = event.locals.app.settings.save(actor, input.value);
    return { done: 'Settings saved.', changeId };
  },

  status: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event.request);
    const input = read(statusSchema, form);
    if (!input.ok) return failed('status', input.errors, form);
    return act('status', form, () => ({
      done: `“${input.value.name}” was saved.`,
      changeId: event.locals.app.settings.saveStatus(actor, input.value).changeId
    }));
  },

  dropStatus: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event.request);
    return act('status', form, () => ({
      done: 'Status removed.',
      changeId: event.locals.app.settings.dropStatus(
        actor,
        Number(form.id),
        form.instead ? Number(form.instead) : null
      ).changeId
    }));
  },

  field: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event.request);
    const choices = (form.choices ?? '')
      .split('\n')
      .map((choice) => choice.trim())
      .filter(Boolean);
    const input = read(fieldSchema, { ...form, choices });
    if (!input.ok) return failed('field', input.errors, form);
    return act('field', form, () => ({
      done: `The field “${input.value.name}” was saved.`,
      changeId: event.locals.app.fields.save(actor, input.value).changeId
    }));
  },

  dropField: async (event) => {
    const { actor } = signedIn(event);
    const form = await values(event.request);
    return act('field', form, () => ({
      done: 'Field and its values removed.',
      changeId: event.locals.app.fields.drop(actor, Number(form.id)).changeId
    }));
  },

  clearSample: (event) => {
    const { person } = signedIn(event);
    if (!event.locals.app.options.demo) return failed('sample', { '': 'There is no sample data here.' }, {});
    const gone = event.locals.app.erasing.clearSample(person.id);
    return {
      done: `Removed: ${many(gone.tasks, 'task')}, ${many(gone.people, 'person', 'people')}, ${many(gone.rules, 'rule')}.`,
      goto: '/'
    };
  }
};

async function values(request: Request): Promise<Record<string, string>> {
  return Object.fromEntries(await request.formData()) as Record<string, string>;
}

function failed(form: string, errors: Record<string, string>, given: Record<string, string>) {
  return fail(400, { form, errors, given });
}

function act<T>(form: string, given: Record<string, string>, work: () => T): T | ReturnType<typeof failed> {
  try {
    return work();
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return failed(form, { [failure.field ?? '']: failure.message }, given);
  }
}
