/** What was sent for, or what went wrong, which the frame has announced. */
export type Answer<T> = T | { message: string; failed: true };

/**
 * Sends JSON and gives the answer back. It is in the context `send`.
 * @param onPart hears how far it has come, from 0 to 1, where that takes long
 */
export type Send = <T>(url: string, body: unknown, onPart?: (part: number) => void) => Promise<Answer<T>>;

/**
 * Posts JSON.
 * @returns the answer and whether the server did what was asked
 * @throws TypeError where no answer comes, and `AbortError` where it is not waited for
 */
export async function postJson(
  url: string,
  body: unknown,
  onPart: (part: number) => void = () => {},
  signal?: AbortSignal
): Promise<{ ok: boolean; answer: { message: string } }> {
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal
  });
  if (response.headers.get('content-type') !== 'application/x-ndjson')
    return { ok: response.ok, answer: (await response.json()) as { message: string } };
  for await (const line of linesOf(response)) {
    const said = JSON.parse(line) as { part: number } | { answer: { message: string } } | { message: string };
    if ('answer' in said) return { ok: true, answer: said.answer };
    if ('message' in said) return { ok: false, answer: said };
    onPart(said.part);
  }
  throw new TypeError('The answer has no end.');
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
