import { error } from '@sveltejs/kit';
import Joi from 'joi';
import { errorSentence } from '$lib/core/errors.ts';
import { UNITS, type Unit } from '$lib/core/ring/lead.ts';

import type { Recipient, Tell } from '$lib/core/rule/step-model.ts';
import type { OffsetLead } from '$lib/core/rule/lead-model.ts';
import { read } from '$lib/server/input/fields.ts';
import { recipientSchema } from '$lib/server/rule/schema.ts';
import { ruleChoices } from '$lib/server/rule/rule-choices.ts';
import { fail } from '@sveltejs/kit';
import { orFail } from '$lib/server/web/forms.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  const opened = app.rules.open(id);
  if (!opened) error(404, errorSentence('rule-gone'));
  const { leads, steps } = opened.edited.definition;
  const lead = leads.find((one): one is OffsetLead => one.kind === 'offset');
  const tell = steps.find((step): step is Tell => step.kind === 'tell');
  const choices = ruleChoices(app, id, viewer);
  return {
    ...{ id, name: opened.rule.name, state: opened.rule.state },
    lead: lead ? { n: lead.n, unit: lead.unit } : null,
    tells: tell !== undefined,
    to: tell?.to[0] ?? { who: 'owner' },
    told: app.ruleCopies.told(id),
    people: choices.people,
    words: app.ruleCopies.toldBy(id)
  };
};

const copySchema = Joi.object<{
  name: string;
  n: number;
  unit: Unit;
  side: string;
  keepLead: boolean;
  to: Recipient | null;
}>({
  name: Joi.string().allow('').trim().max(200).required(),
  n: Joi.number().integer().min(0).max(10_000).default(0),
  unit: Joi.valid(...UNITS).default('workday'),
  side: Joi.valid('before', 'on', 'after').default('before'),
  keepLead: Joi.boolean().default(false),
  to: recipientSchema.allow(null).default(null)
});

export const actions: Actions = {
  default: async (event) => {
    const { actor } = signedIn(event);
    const form = await event.request.formData();
    const who = String(form.get('who') ?? '');
    const input = read(copySchema, {
      ...{ name: form.get('name') ?? '', n: form.get('n') ?? 0, unit: form.get('unit') ?? 'workday' },
      ...{ side: form.get('side') ?? 'before', keepLead: form.get('n') === null },
      to: recipientOf(who)
    });
    if (!input.ok) return fail(400, { values: {}, errors: input.errors });
    const { name, n, unit, side, keepLead, to } = input.value;
    const signed = side === 'on' ? 0 : side === 'before' ? -n : n;
    return orFail({}, () => {
      const { changeId, result } = event.locals.app.ruleCopies.duplicate(actor, Number(event.params.id), {
        name,
        lead: keepLead ? null : { n: signed, unit },
        to
      });
      return { done: `“${name}” was added as a draft.`, changeId, goto: `/rules/${result}` };
    });
  }
};

/** Whom the form names; null leaves the original's. */
function recipientOf(who: string): Recipient | null {
  if (who === '' || who === 'same') return null;
  const [kind = '', id] = who.split(' ');
  if (kind === 'person') return { who: 'person', id: Number(id) };
  return kind === 'manager' ? { who: 'manager', up: Number(id) } : ({ who: kind } as Recipient);
}
