import type { Role } from '../../src/lib/core/access/deeds.ts';
import type { App } from './app.ts';

/** One of each role, as the demo lists them. */
export const PEOPLE: Record<Role, string> = {
  owner: 'Dale Comeau',
  manager: 'Salim Harthy',
  coordinator: 'Nora Fielding',
  administrator: 'Inês Moura'
};

export interface Person {
  id: number;
  cookie: string;
}

/** @param bare asks for the answer alone, as a page that is open does, and not for the whole page again */
export async function post(
  app: App,
  path: string,
  cookie: string,
  form: Record<string, string> = {},
  bare = false
): Promise<Response> {
  return fetch(`${app.origin}${path}`, {
    method: 'POST',
    redirect: 'manual',
    headers: {
      origin: app.origin,
      cookie,
      ...(bare ? { accept: 'application/json', 'x-sveltekit-action': 'true' } : { accept: 'text/html' }),
      'content-type': 'application/x-www-form-urlencoded'
    },
    body: new URLSearchParams(form)
  });
}

export async function get(app: App, path: string, cookie = ''): Promise<Response> {
  return fetch(`${app.origin}${path}`, { redirect: 'manual', headers: { cookie, accept: 'text/html' } });
}

export async function comeIn(app: App, name: string): Promise<Person> {
  const page = await (await get(app, '/sign-in')).text();
  const id = Number(new RegExp(`value="(\\d+)"[^>]*>\\s*${name}`).exec(page)![1]);
  const response = await post(app, '/sign-in/demo', '', { person: String(id) });
  return { id, cookie: response.headers.getSetCookie()[0]!.split(';')[0]! };
}
