import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/schema/fields.ts';
import { settingsSchema } from '$lib/server/schema/settings.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What the settings in the request would move, if they were saved. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const { app } = event.locals;
    const input = read(settingsSchema, await jsonOf(event.request));
    if (!input.ok) throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]! });
    const settings = app.settings.merged(input.value);
    return app.effects.of((facts) => ({ ...facts, settings }), viewer);
  });
