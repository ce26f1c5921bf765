import { CodedError } from '$lib/core/errors.ts';
import { PHASES } from '$lib/core/task/model.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { settingsSchema } from '$lib/server/settings/schema.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What the settings in the request, or a status in another phase, would move if they were saved. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { viewer } = signedIn(event);
    const { app } = event.locals;
    const body = await jsonOf(event.request);
    const { searchParams } = event.url;
    if (searchParams.has('status')) {
      const phase = PHASES.find((one) => one === searchParams.get('phase'));
      if (!phase) throw new CodedError('bad-field', { detail: 'There is no such phase' });
      return app.effects.ofPhase(Number(searchParams.get('status')), phase, viewer);
    }
    const input = readOrRefuse(settingsSchema, body);
    const settings = app.settings.merged(input);
    return app.effects.of((facts) => ({ ...facts, settings }), viewer);
  });
