import { describe, expect, it } from 'vitest';
import { isFromElsewhere, isOwnOrigin, ownPath } from './origins.ts';

const OWN = 'http://localhost:3000';
const request = (method: string, headers: Record<string, string>) => ({
  method,
  headers: new Headers(headers)
});

describe('where a request comes from', () => {
  it.each([
    [OWN, OWN, true],
    ['http://127.0.0.1:3000', OWN, true],
    ['http://[::1]:3000', OWN, true],
    [OWN, 'http://127.0.0.1:3000', true],
    ['https://localhost:3000', OWN, false],
    ['http://localhost:3001', OWN, false],
    ['http://localhost.elsewhere.example:3000', OWN, false],
    ['http://127.0.0.2:3000', OWN, false],
    ['null', OWN, false],
    ['', OWN, false],
    ['http://localhost:3000/', OWN, false],
    ['http://127.0.0.1:3000', 'https://bell.example', false]
  ])('%s is that of %s: %s', (given, own, expected) => expect(isOwnOrigin(given, own)).toBe(expected));

  it.each<[string, Record<string, string>, boolean]>([
    ['GET', { origin: 'http://elsewhere.example' }, false],
    ['POST', { origin: OWN, 'content-type': 'text/plain' }, false],
    ['POST', { origin: 'http://elsewhere.example', 'content-type': 'application/json' }, true],
    ['POST', { origin: 'http://elsewhere.example' }, true],
    ['DELETE', { origin: 'null' }, true],
    ['POST', {}, true],
    ['POST', { 'content-type': 'multipart/form-data; boundary=x' }, true],
    ['POST', { 'content-type': 'Application/X-WWW-Form-Urlencoded' }, true],
    ['POST', { 'content-type': 'application/json' }, false]
  ])('%s with %o is from elsewhere: %s', (method, headers, expected) =>
    expect(isFromElsewhere(request(method, headers), OWN)).toBe(expected)
  );
});

describe('where somebody is led after signing in', () => {
  it.each([
    ['/tasks?text=a#b', '/tasks?text=a#b'],
    ['/tasks/ü', '/tasks/%C3%BC'],
    [null, '/'],
    ['', '/'],
    ['tasks', '/'],
    ['//elsewhere.example', '/'],
    ['/\\elsewhere.example', '/'],
    ['/\t/elsewhere.example', '/'],
    ['/\n/elsewhere.example', '/'],
    ['/.//elsewhere.example', '/'],
    ['/a/..//elsewhere.example', '/'],
    ['https://elsewhere.example', '/'],
    ['/tasks\r\nSet-Cookie: a=b', '/tasksSet-Cookie:%20a=b']
  ])('%j: %s', (to, expected) => {
    expect(ownPath(to)).toBe(expected);
    // What a browser makes of it.
    expect(new URL(ownPath(to), OWN).origin).toBe(OWN);
  });
});
