import Joi from 'joi';
import { CodedError } from '$lib/core/errors.ts';
import type { Recipient } from '$lib/core/rule/step-model.ts';
import { read } from '$lib/server/input/fields.ts';
import { recipientSchema } from '$lib/server/rule/schema.ts';
import { ruleChoices } from '$lib/server/rule/rule-choices.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

const recipientsSchema = Joi.object<{ recipients: Recipient[] }>({
  recipients: Joi.array().items(recipientSchema).max(200).required()
});

export const load: PageServerLoad = (event) => {
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  return {
    ...app.shared.view(),
    choices: ruleChoices(app, 0, viewer)
  };
};

export const actions: Actions = {
  readers: async (event) => {
    const form = await event.request.formData();
    return orFail({ part: 'readers' }, () => {
      const given = read(recipientsSchema, { recipients: parsed(form.get('recipients')) });
      if (!given.ok)
        throw new CodedError('bad-field', { detail: Object.values(given.errors)[0]!.replace(/\.$/, '') });
      const name = String(form.get('name') ?? '').slice(0, 120);
      const { actor } = signedIn(event);
      const { changeId } = event.locals.app.shared.saveReaders(
        actor,
        idOf(form, 'id'),
        name,
        given.value.recipients
      );
      return { done: `“${name}” was saved.`, changeId };
    });
  },
  dropReaders: async (event) => {
    const form = await event.request.formData();
    return orFail({ part: 'readers' }, () => {
      const { changeId } = event.locals.app.shared.dropReaders(signedIn(event).actor, idOf(form, 'id') ?? 0);
      return { done: 'Reader list removed.', changeId };
    });
  },
  template: async (event) => {
    const form = await event.request.formData();
    return orFail({ part: 'template' }, () => {
      const text = (name: string, most: number) => String(form.get(name) ?? '').slice(0, most);
      const { actor } = signedIn(event);
      const saved = event.locals.app.shared.saveTemplate(
        actor,
        idOf(form, 'id'),
        text('name', 120),
        text('subject', 500),
        text('body', 100_000)
      );
      return { done: `“${text('name', 120)}” was saved.`, changeId: saved.changeId };
    });
  },
  dropTemplate: async (event) => {
    const form = await event.request.formData();
    return orFail({ part: 'template' }, () => {
      const { changeId } = event.locals.app.shared.dropTemplate(signedIn(event).actor, idOf(form, 'id') ?? 0);
      return { done: 'Template removed.', changeId };
    });
  }
};

function parsed(text: FormDataEntryValue | null): unknown {
  try {
    return JSON.parse(String(text ?? ''));
  } catch {
    // What is no JSON is no list either: the schema says so.
    return null;
  }
}
