import { readOrRefuse } from '$lib/server/input/fields.ts';
import { keepSchema } from '$lib/server/settings/sending-schema.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Keeps mail in the Post room here, or sends it again: `{keeps}`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { actor } = signedIn(event);
    const { keeps } = readOrRefuse(keepSchema, await jsonParts(event.request));
    const { channelSettings, health, outbox } = event.locals.app;
    const { changeId } = channelSettings.keepMail(actor, keeps);
    health.forget();
    outbox.hurry();
    return { message: keeps ? 'Mail is kept in the Post room. Nothing leaves.' : 'Mail is sent.', changeId };
  });
