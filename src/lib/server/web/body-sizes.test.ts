import { describe, expect, it } from 'vitest';
import { asForm, mostBytesOf, withinSize } from './body-sizes.ts';

const FORM = 'application/x-www-form-urlencoded';
const sent = (body: BodyInit, headers: Record<string, string> = {}) =>
  new Request('http://x.example/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
/** In parts, and without saying how long it is. */
function streamed(parts: string[], read: string[] = []): ReadableStream<Uint8Array> {
  const left = [...parts];
  return new ReadableStream(
    {
      pull(controller) {
        const part = left.shift();
        if (part === undefined) return controller.close();
        read.push(part);
        controller.enqueue(new TextEncoder().encode(part));
      }
    },
    { highWaterMark: 0 }
  );
}
const refused = expect.objectContaining({ code: 'body-too-large' });

describe('what is sent', () => {
  it('may be as long as its route takes, and less by those who are not signed in', () => {
    expect(mostBytesOf('/(app)/tasks/new', true)).toBe(256 * 1024);
    expect(mostBytesOf('/(app)/tasks/new', false)).toBe(16 * 1024);
    expect(mostBytesOf(null, true)).toBe(256 * 1024);
    expect(mostBytesOf('/(app)/tasks/bulk', true)).toBe(1024 * 1024);
  });

  it('comes through as it is where it fits', async () => {
    const request = await withinSize(sent('a=1&b=%C3%A9', { 'content-type': FORM }), 100);
    expect(Object.fromEntries(await request.formData())).toEqual({ a: '1', b: 'é' });
    expect(await (await withinSize(sent(streamed(['ab', 'cd'])), 4)).text()).toBe('abcd');
    const empty = new Request('http://x.example/');
    expect(await withinSize(empty, 1)).toBe(empty);
  });

  it('is refused where it says that it is longer, and where it proves to be', async () => {
    const read: string[] = [];
    const declared = sent(streamed(['abcdef'], read), { 'content-length': '6' });
    await expect(withinSize(declared, 5)).rejects.toThrow(refused);
    await expect(withinSize(sent(streamed(['abc', 'def', 'ghi', 'jkl'], read)), 5)).rejects.toThrow(refused);
    // The rest is let pass, and not kept.
    await expect.poll(() => read.at(-1)).toBe('jkl');
  });

  it('to a page is a form, and refused where it cannot be read as one', async () => {
    const code = expect.objectContaining({ code: 'not-a-form' }) as Error;
    for (const [body, type] of [
      ['a=1', 'text/plain'],
      ['{"a":1}', 'application/json'],
      ['broken', 'multipart/form-data; boundary=x'],
      ['--x--', 'multipart/form-data']
    ] as const)
      await expect(asForm(sent(body, { 'content-type': type }))).rejects.toThrow(code);
    const good = await asForm(sent('a=1', { 'content-type': FORM }));
    expect((await good.formData()).get('a')).toBe('1');
  });

  it('is refused where it has more fields than any form', async () => {
    const many = 'a&'.repeat(6_000);
    await expect(withinSize(sent(many, { 'content-type': FORM }), 100_000)).rejects.toThrow(refused);
    // In a text they are no fields.
    expect(await (await withinSize(sent(many, { 'content-type': 'text/plain' }), 100_000)).text()).toBe(many);
  });
});
