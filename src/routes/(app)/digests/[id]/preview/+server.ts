import Joi from 'joi';
import { CodedError } from '$lib/core/errors.ts';
import { parseDay } from '$lib/core/time/day.ts';
import { instantOnWall } from '$lib/core/time/instant.ts';
import { parseTimeOfDay } from '$lib/core/time/time-of-day.ts';
import { digestSchema, type DigestInput } from '$lib/server/digest/schema.ts';
import { checked, read } from '$lib/server/input/fields.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

interface Asked {
  digest: DigestInput;
  /** Whose; 0 for what goes to all together. */
  person: number;
  /** A moment on the viewer’s wall. */
  date: string;
  time: string;
}

const askedSchema = Joi.object<Asked>({
  digest: digestSchema.required(),
  person: Joi.number().integer().min(0).required(),
  date: Joi.string().required().custom(checked(parseDay)),
  time: Joi.string().required().custom(checked(parseTimeOfDay))
});

/** The digest in the request as somebody would get it at a moment. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const asked = read(askedSchema, await jsonOf(event.request));
    if (!asked.ok)
      throw new CodedError('bad-field', { detail: Object.values(asked.errors)[0]!.replace(/\.$/, '') });
    const { zone, actor } = signedIn(event);
    const { digest, person, date, time } = asked.value;
    const at = instantOnWall(parseDay(date), parseTimeOfDay(time), zone);
    return event.locals.app.digests.preview(actor, Number(event.params.id), person, at, digest);
  });
