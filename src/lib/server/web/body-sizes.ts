import { CodedError } from '../../core/errors.ts';

const KB = 1024;
const MB = 1024 * KB;

/** What anybody may send who is not signed in: an address and a password. */
const OF_ANYBODY = 16 * KB;
/** What somebody may send who is: a form, with the longest words that it takes. */
const OF_SOMEBODY = 256 * KB;
/** Routes that take more: files, and lists of very many. */
const OF_ROUTES: Readonly<Record<string, number>> = {
  // It counts itself, as it comes, and says so in its own words.
  '/(app)/tasks/import/upload': Infinity,
  '/(app)/calendars/[id]/holidays': 4 * MB + KB,
  // As typed into a form a sheet is up to three times as long as its words.
  '/(app)/people/sheet': 3 * MB,
  '/(app)/people/leave': 3 * MB,
  // A hundred thousand ids.
  '/(app)/tasks/bulk': MB,
  '/(app)/rules/hand': MB,
  // Ten years of closed days by name.
  '/(app)/calendars/[id]': MB,
  '/(app)/calendars/[id]/effect': MB
};

/** More fields than any form has: taking a text apart into a hundred thousand of them holds everybody else. */
const MOST_FIELDS = 5_000;

/** How long what is sent to a route may be, in bytes. */
export function mostBytesOf(routeId: string | null, isSignedIn: boolean): number {
  if (!isSignedIn) return OF_ANYBODY;
  return OF_ROUTES[routeId ?? ''] ?? OF_SOMEBODY;
}

/** What is refused is let pass so far, unkept: a sender who is cut off while sending does not hear why. */
const LET_PASS_BYTES = 64 * MB;

/**
 * A request whose body is no longer than its route takes. One that says that it is longer is refused at once; one that does not say is counted as it comes.
 * @throws CodedError `body-too-large`
 */
export async function withinSize(request: Request, most: number): Promise<Request> {
  if (request.body === null || most === Infinity) return request;
  const { url, method, headers, signal } = request;
  const reader = request.body.getReader();
  const chunks = Number(headers.get('content-length') ?? 0) > most ? null : await readWithin(reader, most);
  const body = chunks && Buffer.concat(chunks);
  if (!body || isTooManyFields(headers.get('content-type') ?? '', body)) {
    if (!body) void letPass(reader);
    throw new CodedError('body-too-large', {
      most: most >= MB ? `${Math.floor(most / MB)} MB` : `${most / KB} KB`
    });
  }
  return new Request(url, { method, headers, body, signal });
}

/**
 * What is posted to a page is a form: one that cannot be read as that is refused before an act looks for its fields.
 * @throws CodedError `not-a-form`
 */
export async function asForm(request: Request): Promise<Request> {
  if (request.method !== 'POST') return request;
  try {
    await request.clone().formData();
    return request;
  } catch (failure) {
    if (!(failure instanceof TypeError)) throw failure;
    throw new CodedError('not-a-form');
  }
}

/** @returns null where it is longer */
async function readWithin(
  reader: ReadableStreamDefaultReader<Uint8Array>,
  most: number
): Promise<Uint8Array[] | null> {
  const chunks: Uint8Array[] = [];
  for (let size = 0, read = await reader.read(); !read.done; read = await reader.read()) {
    size += read.value.length;
    if (size > most) return null;
    chunks.push(read.value);
  }
  return chunks;
}

async function letPass(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<void> {
  try {
    for (let size = 0, read = await reader.read(); !read.done; read = await reader.read()) {
      size += read.value.length;
      if (size > LET_PASS_BYTES) return await reader.cancel();
    }
  } catch {
    // Whoever sent it has gone.
  }
}

function isTooManyFields(type: string, body: Buffer): boolean {
  if (!type.startsWith('application/x-www-form-urlencoded')) return false;
  let count = 0;
  for (let at = body.indexOf('&'); at !== -1; at = body.indexOf('&', at + 1))
    if (++count > MOST_FIELDS) return true;
  return false;
}
