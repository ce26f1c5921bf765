import { errorSentence } from '$lib/core/errors.ts';
import { MOST_BYTES } from '$lib/server/in-out/read/decode.ts';
import { answerJson, signedIn } from '$lib/server/web/web.ts';
import { json } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** Takes a file in, as the bare body of the request. One that says it is too large is refused before it is read. */
export const PUT: RequestHandler = (event) => {
  const { person } = signedIn(event);
  const { request, url, locals } = event;
  if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES) {
    return json(
      { message: errorSentence('import-too-large', { most: '20 MB' }), code: 'import-too-large' },
      { status: 413 }
    );
  }
  const wished = url.searchParams.get('token') ?? '';
  const token = /^[\w-]{24}$/.test(wished) ? wished : undefined;
  const name = url.searchParams.get('name') ?? 'tasks.csv';
  return answerJson(async () => ({
    token: await locals.app.imports.upload(person.id, name, bodyOf(request), token)
  }));
};

async function* bodyOf(request: Request): AsyncGenerator<Uint8Array> {
  const reader = request.body?.getReader();
  if (!reader) return;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    yield value;
  }
}
