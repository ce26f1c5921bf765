import { ROLES, may } from '../../src/lib/core/access/deeds.ts';
import { ROUTES, isEndpoint } from '../../src/lib/server/auth/routes.ts';
import { expect, test } from './app.ts';
import { comeIn, get, PEOPLE, post, type Person } from './http.ts';

/** Every route, form action and endpoint, asked over HTTP by every role and by nobody; and another person's private task. */
test.use({ appOptions: { demo: true, name: 'access' } });
test.describe.configure({ mode: 'serial' });

/** An address of a route: one's own page where it is a person's, else something that is not there. */
function addressOf(route: string, person: Person | null): string {
  const path = route.replace('/(app)', '').replace('/(list)', '') || '/';
  if (path.startsWith('/people/[id]')) return path.replace('[id]', String(person?.id ?? 1));
  return path.replace('[id]', '999999').replace('[token]', 'nothing');
}

for (const role of ROLES) {
  test(`${role}: each route and act opens, or does not, as the table says`, async ({ app }) => {
    const person = await comeIn(app, PEOPLE[role]);
    for (const [route, { read, acts }] of Object.entries(ROUTES)) {
      if (read) {
        const { status, headers } = await get(app, addressOf(route, person), person.cookie);
        const allowed = read === 'anybody' || may(role, read);
        if (route === '/(app)' && !allowed)
          expect([route, headers.get('location')]).toEqual([route, '/desk']);
        else expect([route, status === 403]).toEqual([route, !allowed]);
      }
      for (const [act, deed] of Object.entries(acts ?? {})) {
        // What would end the session, or the sample data, is asked for below or of nobody's account.
        if (
          route === '/sign-out' ||
          route.startsWith('/sign-in') ||
          act === 'clearSample' ||
          act === 'signOutEverywhere'
        )
          continue;
        const path = addressOf(route, person);
        const query = isEndpoint(route) || act === 'default' ? '' : `?/${act}`;
        const response =
          act === 'PUT'
            ? await fetch(app.origin + path, {
                method: 'PUT',
                headers: { origin: app.origin, cookie: person.cookie }
              })
            : await post(app, route.includes('deactivate') ? path : path + query, person.cookie, {}, true);
        const allowed = deed === 'anybody' || may(role, deed);
        expect([route, act, response.status === 403]).toEqual([route, act, !allowed]);
        // An administrator who has just deactivated themselves would not get far; the last one cannot.
      }
    }
  });
}

test('nobody: only what needs no session', async ({ app }) => {
  for (const [route, { read, acts }] of Object.entries(ROUTES)) {
    const path = addressOf(route, null);
    if (read && read !== 'anybody') {
      const { status, headers } = await get(app, path);
      expect([route, status]).toEqual([route, 303]);
      expect(headers.get('location')).toMatch(/^\/sign-in/);
    }
    for (const [act, deed] of Object.entries(acts ?? {})) {
      if (deed === 'anybody' || act === 'PUT') continue;
      const query = isEndpoint(route) || act === 'default' ? '' : `?/${act}`;
      const { status, headers } = await post(app, path + query, '');
      expect([route, act, status, headers.get('location')]).toEqual([route, act, 303, '/sign-in']);
    }
  }
});

test('a form that comes from another site is refused, and pages carry their headers', async ({ app }) => {
  const person = await comeIn(app, PEOPLE.administrator);
  const foreign = await fetch(`${app.origin}/settings?/clearSample`, {
    method: 'POST',
    redirect: 'manual',
    headers: {
      origin: 'http://elsewhere.example',
      cookie: person.cookie,
      'content-type': 'application/x-www-form-urlencoded'
    }
  });
  expect(foreign.status).toBe(403);
  const fromNowhere = await fetch(`${app.origin}/settings?/clearSample`, {
    method: 'POST',
    redirect: 'manual',
    headers: { cookie: person.cookie, 'content-type': 'multipart/form-data; boundary=x' },
    body: '--x--'
  });
  expect(fromNowhere.status).toBe(403);
  const page = await get(app, '/', person.cookie);
  expect(page.headers.get('content-security-policy')).toMatch(/script-src 'self' 'nonce-/);
  expect(page.headers.get('content-security-policy')).not.toMatch(/script-src[^;]*unsafe/);
  expect(page.headers.get('x-content-type-options')).toBe('nosniff');
  expect(page.headers.get('x-frame-options')).toBe('DENY');
});

test('a private task is its owner’s: nobody else reads, finds or changes it', async ({ app }) => {
  const rui = await comeIn(app, 'Rui Tavares');
  const list = await (await get(app, '/tasks?text=survey+course', rui.cookie)).text();
  const id = /\/tasks\/(\d+)[^>]*>Think about the survey course/.exec(list)![1]!;
  expect((await get(app, `/tasks/${id}`, rui.cookie)).status).toBe(200);
  for (const name of Object.values(PEOPLE)) {
    const other = await comeIn(app, name);
    expect([name, (await get(app, `/tasks/${id}`, other.cookie)).status]).toEqual([name, 404]);
    expect([
      name,
      (await post(app, `/tasks/${id}?/save`, other.cookie, { task: '{"name":"Taken"}' })).status
    ]).toEqual([name, 404]);
    // Nor does it show by being named: connected with, or given a subtask.
    const under = { task: JSON.stringify({ name: 'Under it', parentId: Number(id) }) };
    expect(await (await post(app, '/tasks/new', other.cookie, under)).text()).toContain('was not found');
    for (const place of [`/tasks?show=all&text=survey`, '/', '/people', `/people/${rui.id}`])
      expect(await (await get(app, place, other.cookie)).text()).not.toContain('survey course');
  }
});

test('undo does not give what a role does not: settings and roles are an administrator’s to take back', async ({
  app
}) => {
  const ines = await comeIn(app, 'Inês Moura');
  const nora = await comeIn(app, 'Nora Fielding');
  const dale = await comeIn(app, 'Dale Comeau');
  const saved = await fetch(`${app.origin}/settings?/status`, {
    method: 'POST',
    headers: {
      origin: app.origin,
      cookie: ines.cookie,
      accept: 'application/json',
      'content-type': 'application/x-www-form-urlencoded'
    },
    body: new URLSearchParams({ name: 'On hold', phase: 'stuck on others' })
  });
  // Kit writes what an action gives as a list in which objects name the places of their values.
  const given = JSON.parse(((await saved.json()) as { data: string }).data) as [
    { changeId: number },
    ...unknown[]
  ];
  const changeId = Number(given[given[0].changeId]);
  const undo = (cookie: string, id: number) =>
    fetch(`${app.origin}/undo`, {
      method: 'POST',
      headers: { origin: app.origin, cookie, 'content-type': 'application/json' },
      body: JSON.stringify({ changeId: id })
    });
  expect((await (await undo(nora.cookie, changeId)).json()) as object).toMatchObject({ code: 'no-access' });
  expect((await (await undo(dale.cookie, changeId)).json()) as object).toMatchObject({
    code: 'undo-not-yours'
  });
  expect((await undo(ines.cookie, changeId)).status).toBe(200);
});

test('an owner reads a task of their project and does not change it; a manager sees their people’s', async ({
  app
}) => {
  const dale = await comeIn(app, 'Dale Comeau');
  const salim = await comeIn(app, 'Salim Harthy');
  const ines = await comeIn(app, 'Inês Moura');
  const idOf = async (name: string) => {
    const page = await (
      await get(app, `/tasks?show=all&text=${encodeURIComponent(name)}`, ines.cookie)
    ).text();
    return new RegExp(`/tasks/(\\d+)[^>]*>${name}`).exec(page)![1]!;
  };
  const calls = await idOf('Sunday call with the ferry office');
  expect((await get(app, `/tasks/${calls}`, dale.cookie)).status).toBe(200);
  const edit = await post(app, `/tasks/${calls}?/save`, dale.cookie, { task: '{"name":"Mine now"}' });
  expect(await edit.text()).toContain('somebody else’s task');
  const huda = await idOf('Answer the port authority');
  expect((await get(app, `/tasks/${huda}`, salim.cookie)).status).toBe(200);
  const coordinators = await idOf('Plan the coordinators’ call');
  const own = await (await get(app, '/tasks?show=all', salim.cookie)).text();
  // What would not open is not offered either.
  expect(own).not.toContain('/tasks/import');
  expect(await (await get(app, `/people/${salim.id}`, salim.cookie)).text()).not.toContain('href="/rules/');
  expect(own).toContain('Answer the port authority');
  expect((await get(app, `/tasks/${coordinators}`, dale.cookie)).status).toBe(404);
});
