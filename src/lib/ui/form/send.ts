/** What was sent for, or what went wrong, which the frame has announced. */
export type Answer<T> = T | { message: string; failed: true };

/**
 * Sends JSON and gives the answer back. It is in the context `send`.
 * @param onPart hears how far it has come, from 0 to 1, where that takes long
 */
export type Send = <T>(url: string, body: unknown, onPart?: (part: number) => void) => Promise<Answer<T>>;

/** The answer to what was posted, or the sentence that the server says instead. */
export type Posted<T> = { ok: true; answer: T } | { ok: false; message: string };

interface PostOptions {
  /** Hears how far it has come, from 0 to 1, where that takes long. */
  onPart?: ((part: number) => void) | undefined;
  signal?: AbortSignal | undefined;
}

/**
 * Posts JSON, a file, or a form as it stands.
 * @throws TypeError where no answer comes, and `AbortError` where it is not waited for
 */
export async function postJson<T>(
  url: string,
  body: unknown,
  { onPart = () => {}, signal }: PostOptions = {}
): Promise<Posted<T>> {
  const isForm = body instanceof FormData;
  const isFile = body instanceof Blob;
  const response = await fetch(url, {
    method: 'POST',
    // What parts a form has is said by the browser.
    ...(isForm ? {} : { headers: { 'content-type': isFile ? body.type : 'application/json' } }),
    body: isForm || isFile ? body : JSON.stringify(body),
    ...(signal ? { signal } : {})
  });
  if (response.headers.get('content-type') !== 'application/x-ndjson') return answerOf<T>(response);
  for await (const line of linesOf(response)) {
    const said = JSON.parse(line) as { part: number } | { answer: T } | { message: string };
    if ('answer' in said) return { ok: true, answer: said.answer };
    if ('message' in said) return { ok: false, message: said.message };
    onPart(said.part);
  }
  throw new TypeError('The server’s answer is incomplete.');
}

/**
 * Asks something by posting JSON, where nothing is changed and nothing announced.
 * @returns a sentence where it cannot be said; nothing where it is not waited for
 */
export async function askJson<T>(
  url: string,
  body: unknown,
  options: PostOptions = {}
): Promise<Posted<T> | null> {
  try {
    return await postJson<T>(url, body, options);
  } catch {
    // No answer at all: that is all there is to say.
    return options.signal?.aborted ? null : { ok: false, message: 'The server does not answer.' };
  }
}

/** Reads JSON; null where there is none just now: whoever asked asks again. */
export async function readJson<T>(url: string): Promise<T | null> {
  try {
    const response = await fetch(url);
    return response.ok ? ((await response.json()) as T) : null;
  } catch {
    return null;
  }
}

/** The answer of the server, or its sentence. */
async function answerOf<T>(response: Response): Promise<Posted<T>> {
  if (response.ok) return { ok: true, answer: (await response.json()) as T };
  const { message } = (await response.json()) as { message: string };
  return { ok: false, message };
}

async function* linesOf(response: Response): AsyncGenerator<string> {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + value).split('\n');
    rest = lines.pop()!;
    yield* lines;
  }
}
