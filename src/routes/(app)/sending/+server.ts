import { readOrRefuse } from '$lib/server/input/fields.ts';
import { sendingSchema } from '$lib/server/settings/sending-schema.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Tries whether mail can leave: `{does: "try"}` by everything but a message, `{does: "test"}` by a message to whoever asks. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { does } = readOrRefuse(sendingSchema, await jsonParts(event.request));
    const { health, channelTest, outbox } = event.locals.app;
    if (does === 'test') return channelTest.sendAndWait(signedIn(event).person.id, 'mail');
    const found = await health.probe();
    if (found.state === 'works') outbox.hurry();
    return found.state === 'fails'
      ? { arrived: false, words: found.why }
      : { arrived: true, words: 'Mail can leave. What waited is sent now.' };
  });
