/** Names of this machine for itself (RFC 6761 §6.3 for `localhost`; RFC 1122 §3.2.1.3 and RFC 4291 §2.5.3 for the addresses). */
const LOOPBACK: ReadonlySet<string> = new Set(['localhost', '127.0.0.1', '[::1]']);

/** The kinds of bodies that a form of another site can send without being asked (WHATWG Fetch, CORS-safelisted request-header). */
const OF_FORMS: ReadonlySet<string> = new Set([
  'application/x-www-form-urlencoded',
  'multipart/form-data',
  'text/plain'
]);

/**
 * Whether an origin is that of this application. One that runs on this machine is open under every name that the machine has for itself.
 * @param given as a browser sends it; `null` in letters from a page that has none
 */
export function isOwnOrigin(given: string, own: string): boolean {
  if (given === own) return true;
  if (!URL.canParse(given) || !URL.canParse(own)) return false;
  const [a, b] = [new URL(given), new URL(own)];
  return (
    a.origin === given &&
    a.protocol === b.protocol &&
    a.port === b.port &&
    LOOPBACK.has(a.hostname) &&
    LOOPBACK.has(b.hostname)
  );
}

/**
 * Whether something that changes data was sent from another site than this one, or by a form from nowhere: nothing is done by it in somebody's
 * name. A browser names the origin of every such request (WHATWG Fetch, append a request `Origin` header); programs that are no browser name
 * none, and then what a form could have sent is refused.
 */
export function isFromElsewhere(
  { method, headers }: Pick<Request, 'method' | 'headers'>,
  own: string
): boolean {
  if (method === 'GET' || method === 'HEAD' || method === 'OPTIONS') return false;
  const origin = headers.get('origin');
  if (origin !== null) return !isOwnOrigin(origin, own);
  const type = (headers.get('content-type') ?? '').split(';', 1)[0]!.trim().toLowerCase();
  return type === '' || OF_FORMS.has(type) || type.startsWith('application/x-sveltekit');
}

/**
 * A path of this application, as an address writes it; the first page for anything that a browser would read as leading elsewhere. Browsers take
 * tabs and line breaks out of an address and read a backslash as a slash (WHATWG URL, basic URL parser), so it is asked what they would make of it.
 */
export function ownPath(to: string | null | undefined): string {
  if (!to || !to.startsWith('/') || !URL.canParse(to, 'http://own.invalid')) return '/';
  const { origin, pathname, search, hash } = new URL(to, 'http://own.invalid');
  if (origin !== 'http://own.invalid' || pathname.startsWith('//')) return '/';
  return pathname + search + hash;
}
