/**
 * What every answer carries, unless it says otherwise itself. Nothing that was made for somebody is kept by a browser or by what stands between (RFC
 * 9111 §5.2.2.5), so that Back shows nothing after signing out; static files say for themselves how long they keep.
 * @param origin the public address; over TLS browsers are asked to come by it alone (RFC 6797)
 */
export function securityHeaders(origin: string | undefined): Readonly<Record<string, string>> {
  return {
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'permissions-policy': 'camera=(), microphone=(), geolocation=()',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'cache-control': 'private, no-store',
    ...(origin?.startsWith('https:')
      ? { 'strict-transport-security': 'max-age=31536000; includeSubDomains' }
      : {})
  };
}
