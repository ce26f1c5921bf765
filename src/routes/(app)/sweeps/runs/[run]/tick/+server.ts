import Joi from 'joi';
import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/input/fields.ts';
import { answerJson, jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

const schema = Joi.object<{ ids: number[]; ticked: boolean }>({
  ids: Joi.array().items(Joi.number().integer().positive()).min(1).max(1_000).required(),
  ticked: Joi.boolean().required()
});

/** Leaves tasks of a list out, or takes them again. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const input = read(schema, await jsonOf(event.request));
    if (!input.ok) throw new CodedError('bad-field', { detail: 'Choose the tasks' });
    const { ids, ticked } = input.value;
    return { changed: event.locals.app.sweeps.tick(Number(event.params.run), ids, ticked) };
  });
