import { request as ask } from 'node:http';
import { createConnection } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { expect, open, signIn, test, type App } from './app.ts';
import { comeIn, get, PEOPLE, post, type Person } from './http.ts';
import { FORM_PAGES, NO_FORMS, ODD_ADDRESSES, ODD_BODIES, ODD_FORMS } from './odd-requests.ts';
import { ACT_WAYS, type Ask, type Things } from './ways.ts';

/**
 * What somebody would try who has no business here, or more than they should, against the server as it is started. `npm run attack` tries the long forms.
 */
test.use({ appOptions: { demo: true, name: 'attack' } });

const LONG = process.env.ATTACK === 'long';
const PASSWORD = 'hold fast to the quay';

const form = (fields: Record<string, string>) => new URLSearchParams(fields).toString();
const json = (app: App, path: string, { cookie }: Person, body: unknown, headers = {}) =>
  fetch(app.origin + path, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin: app.origin, cookie, 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body)
  });

/** A request as any program makes it: its own headers alone, from an address of its own. */
function raw(
  app: App,
  path: string,
  { method = 'GET', headers = {}, body = '', from = '127.0.0.1' } = {}
): Promise<{ status: number; headers: Record<string, unknown>; text: string }> {
  const port = Number(new URL(app.origin).port);
  return new Promise((resolve, reject) => {
    const request = ask(
      { host: '127.0.0.1', port, path, method, headers, localAddress: from },
      (response) => {
        let text = '';
        response.on('data', (chunk) => (text += chunk));
        response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, text }));
      }
    );
    request.on('error', reject);
    request.end(body);
  });
}

const tryIn = (app: App, email: string, password: string, from?: string) =>
  raw(app, '/sign-in', {
    method: 'POST',
    headers: { origin: app.origin, 'content-type': 'application/x-www-form-urlencoded', accept: 'text/html' },
    body: form({ email, password }),
    ...(from ? { from } : {})
  });

/** Invitations that have been read. */
const opened = new Set<number>();

/** Somebody gets a password, by an invitation that is read in their mail. */
async function invited(app: App, admin: Person, id: number): Promise<string> {
  await post(app, `/people/${id}?/invite`, admin.cookie, {});
  let token = '';
  let email = '';
  await expect(async () => {
    const { messages } = (await (await fetch(`${app.mail}/messages?limit=200`)).json()) as {
      messages: { id: number; subject: string; to: string[] }[];
    };
    const mail = messages.find((one) => one.subject.startsWith('Invitation to') && !opened.has(one.id))!;
    const { text } = (await (await fetch(`${app.mail}/messages/${mail.id}`)).json()) as { text: string };
    token = /\/password\/(\S+)/.exec(text)![1]!;
    email = mail.to[0]!;
    opened.add(mail.id);
  }).toPass();
  await post(app, `/password/${token}`, '', { password: PASSWORD, again: PASSWORD });
  return email;
}

test('nobody of another machine reaches it, under whichever name this one is called', async ({
  app,
  page
}) => {
  const port = Number(new URL(app.origin).port);
  const others = Object.values(networkInterfaces())
    .flat()
    .filter((one) => one && !one.internal && one.family === 'IPv4');
  for (const { address } of others as { address: string }[]) {
    const reached = await new Promise((resolve) => {
      const line = createConnection({ host: address, port, timeout: 2_000 });
      line.once('connect', () => resolve(true)).once('error', () => resolve(false));
      line.once('timeout', () => resolve(false));
    });
    expect([address, reached]).toEqual([address, false]);
  }
  // By its other name the demo works as by the first.
  await page.goto(`http://127.0.0.1:${port}/`);
  await page.getByRole('button', { name: /Inês Moura/ }).click();
  await expect(page.getByRole('heading', { name: 'Bell tower', level: 1 })).toBeVisible();
});

test('every answer carries its headers: a page, a refusal, a redirect, a static file', async ({ app }) => {
  const ines = await comeIn(app, PEOPLE.administrator);
  const page = await (await get(app, '/sign-in')).text();
  const file = /\/_app\/immutable\/[^"]+\.js/.exec(page)![0];
  for (const path of [
    '/',
    '/sign-in',
    '/tasks',
    '/nowhere',
    '/people/999',
    file,
    '/healthz',
    '/tasks/rows'
  ]) {
    const { headers } = await get(app, path, ines.cookie);
    expect([path, headers.get('x-content-type-options'), headers.get('x-frame-options')]).toEqual([
      ...[path, 'nosniff', 'DENY']
    ]);
    const kept = path === file ? 'public,max-age=31536000,immutable' : 'no-store';
    expect([path, headers.get('cache-control')]).toEqual([path, expect.stringContaining(kept)]);
  }
  expect((await get(app, '/tasks')).headers.get('cache-control')).toBe('private, no-store');
  const { headers } = await get(app, '/', ines.cookie);
  expect(headers.get('content-security-policy')).not.toMatch(/(script|style)-src [^;]*unsafe/);
});

test('nothing is changed from elsewhere, whatever it says that it is', async ({ app }) => {
  const { cookie } = await comeIn(app, PEOPLE.administrator);
  const bodies: [headers: Record<string, string>, body: string][] = [
    [{ origin: 'http://elsewhere.example' }, ''],
    [{ origin: 'null', 'content-type': 'text/plain' }, 'a=b'],
    [{ origin: 'http://elsewhere.example', 'content-type': 'application/json' }, '{"changeId":1}'],
    [{ 'content-type': 'application/x-www-form-urlencoded' }, 'a=b'],
    [{}, '']
  ];
  for (const [headers, body] of bodies)
    for (const path of ['/settings?/clearSample', '/undo', '/sign-in/demo', '/clock'])
      expect([
        path,
        headers,
        (await raw(app, path, { method: 'POST', headers: { ...headers, cookie }, body })).status
      ]).toEqual([path, headers, 403]);
});

test('signing in leads nowhere else, and odd addresses are no fault of ours', async ({ app }) => {
  for (const to of [
    '//elsewhere.example',
    '/\\elsewhere.example',
    '/%09/elsewhere.example',
    '/%0a/e.example'
  ])
    expect(await (await get(app, `/sign-in?to=${to.replace('\\', '%5C')}`)).text()).not.toMatch(
      /name="to" value="\/[\t\n]?[\\/]/
    );
  const ines = await comeIn(app, PEOPLE.administrator);
  const led = await post(app, '/sign-in/demo', '', { person: String(ines.id), to: '/\t/elsewhere.example' });
  expect(led.headers.get('location')).toBe('/');
  const odd = await post(app, '/sign-in/demo', '', { person: String(ines.id), to: '/a\r\nx: y\u0000' });
  expect(odd.status).toBe(303);
  for (const path of ['/tasks/1e9', '/tasks/%00', '/people/-1', '/rules/NaN', '/changes/99999999'])
    expect([path, (await get(app, path, ines.cookie)).status]).toEqual([path, 404]);
});

test('a coordinator does not become an administrator, and nobody keeps what they had', async ({ app }) => {
  const [ines, nora] = [await comeIn(app, PEOPLE.administrator), await comeIn(app, PEOPLE.coordinator)];
  const form = {
    ...{ name: 'Inês Moura', email: 'taken@elsewhere.example', zone: 'Europe/Lisbon', role: 'administrator' },
    ...{ calendarId: '1', managerId: '', phone: '', groups: '' }
  };
  const taken = await post(app, `/people/${ines.id}?/basics`, nora.cookie, form, true);
  expect(await taken.text()).toContain('Only an administrator can change the address');
  const out = await post(app, `/people/${ines.id}?/signOutEverywhere`, nora.cookie, {}, true);
  expect(await out.text()).toContain('Only an administrator');
  expect((await get(app, '/', ines.cookie)).status).toBe(200);
  const sheet = await post(app, '/people/sheet?/look', nora.cookie, {
    text: 'name,email\r\nInês Moura,taken@elsewhere.example\r\n'
  });
  expect(await sheet.text()).toContain('Only an administrator can change the address');
  // Whoever comes in as somebody else leaves no session behind.
  await post(app, '/sign-in/demo', nora.cookie, { person: String(ines.id) });
  expect((await get(app, '/', nora.cookie)).status).toBe(303);
});

test('an owner lets nobody into a project, and is told of none that is not theirs', async ({ app }) => {
  const [ines, dale] = [await comeIn(app, PEOPLE.administrator), await comeIn(app, PEOPLE.owner)];
  const named = async (cookie: string) =>
    [...(await (await get(app, '/projects', cookie)).text()).matchAll(/href="\/projects\/(\d+)"/g)].map(
      ([, id]) => Number(id)
    );
  const own = new Set(await named(dale.cookie));
  const [strange] = (await named(ines.cookie)).filter((id) => !own.has(id));
  const task = JSON.stringify({ name: 'Let me in', ownerId: dale.id, projectId: strange });
  expect(await (await post(app, '/tasks/new', dale.cookie, { task })).text()).toContain(
    'cannot add tasks to this project'
  );
  const mine = /href="\/tasks\/(\d+)/.exec(await (await get(app, '/tasks', dale.cookie)).text())![1]!;
  const change = { act: 'project', id: strange };
  const many = await json(app, '/tasks/bulk', dale, { ids: [Number(mine)], change, preview: true });
  expect(await many.text()).toContain('not a project of yours');
  expect((await get(app, `/projects/${strange}`, dale.cookie)).status).toBe(404);
  const offered = await (await get(app, '/tasks/new', dale.cookie)).text();
  const strangers = await (await get(app, `/projects/${strange}`, ines.cookie)).text();
  const name = /<h1[^>]*>\s*([^<]+?)\s*</.exec(strangers)![1]!;
  expect(offered).not.toContain(name);
});

test('guessing is slow, and keeps nobody else out', async ({ app }) => {
  const ines = await comeIn(app, PEOPLE.administrator);
  const email = await invited(app, ines, (await comeIn(app, PEOPLE.manager)).id);
  // Many at once at one address: four are tried, then one after 2 s, 4 s, 8 s more, which a busy machine may take over them.
  const began = Date.now();
  const many = await Promise.all(
    Array.from({ length: 25 }, (_, i) => tryIn(app, email, `no ${i}`, `127.0.1.${i + 1}`))
  );
  const tried = many.filter(({ status }) => status === 400);
  const seconds = (Date.now() - began) / 1_000;
  expect(tried.length).toBeLessThanOrEqual(4 + Math.floor(Math.log2(seconds / 2 + 1)));
  for (const { status, headers } of many.filter((one) => !tried.includes(one)))
    expect([status, headers['retry-after']]).toEqual([429, expect.stringMatching(/^\d+$/)]);

  const other = await invited(app, ines, (await comeIn(app, 'Clara Pinho')).id);
  const total = LONG ? 10_000 : 300;
  let [next, refused] = [0, 0];
  const guess = async () => {
    while (next < total) {
      const { status } = await tryIn(app, `p${next++ % 1_000}@elsewhere.example`, 'no');
      refused += Number(status === 429);
    }
  };
  const flood = Promise.all(Array.from({ length: 20 }, guess));
  const asked = Date.now();
  const right = await tryIn(app, other, PASSWORD, '127.0.0.2');
  if (LONG) process.stdout.write(`  the right one came in after ${Date.now() - asked} ms\n`);
  expect(right.status).toBe(303);
  await flood;
  expect(refused).toBeGreaterThan(total * 0.8);
});

test('open pages are few, and end with their session; Back shows nothing after signing out', async ({
  app,
  page
}) => {
  const dale = await comeIn(app, PEOPLE.owner);
  const stop = new AbortController();
  const streams = await Promise.all(
    Array.from({ length: LONG ? 300 : 8 }, () =>
      fetch(`${app.origin}/live`, { headers: { cookie: dale.cookie }, signal: stop.signal })
    )
  );
  expect(streams.filter(({ status }) => status === 200)).toHaveLength(5);
  expect(streams.filter(({ status }) => status === 204)).toHaveLength(streams.length - 5);
  const reader = streams.find(({ status }) => status === 200)!.body!.getReader();
  await post(app, '/sign-out', dale.cookie);
  let last = await reader.read();
  while (!last.done) last = await reader.read();
  stop.abort();

  await signIn(page, app, PEOPLE.coordinator);
  await open(page, `${app.origin}/tasks`);
  await page.evaluate(() => fetch('/sign-out', { method: 'POST' }));
  await page.goto(`${app.origin}/healthz`);
  await page.goBack();
  await expect(page).toHaveURL(/sign-in/);
});

test('what is too long is refused, declared or not, and holds nobody', async ({ app }) => {
  const ines = await comeIn(app, PEOPLE.administrator);
  const headers = { origin: app.origin, 'content-type': 'application/x-www-form-urlencoded' };
  const many = 'a&'.repeat(1_000_000);
  const whole = await raw(app, '/sign-in', { method: 'POST', headers, body: many });
  expect(whole.status).toBe(413);
  const inParts = { ...headers, 'transfer-encoding': 'chunked', cookie: ines.cookie };
  expect((await raw(app, '/tasks/new', { method: 'POST', headers: inParts, body: many })).status).toBe(413);
  const deep = await json(app, '/tasks/bulk', ines, '['.repeat(900_000));
  expect(deep.status).toBe(400);
  const list = await get(app, '/tasks/rows', ines.cookie);
  expect(list.status).toBe(200);
});

test('what nobody gets by pressing something is refused, and is no fault of ours', async ({ app }) => {
  const ines = await comeIn(app, PEOPLE.administrator);
  const faults: string[] = [];
  const heard = async (what: string, answering: Promise<Response>) => {
    const answer = await answering;
    const text = await answer.text();
    // A page that is open hears of a fault inside the answer to its form.
    if (answer.status >= 500 || text.includes('"status":500') || text.startsWith('{"type":"error"'))
      faults.push(`${what} answered ${answer.status}`);
  };
  for (const path of ODD_ADDRESSES) await heard(path, get(app, path, ines.cookie));
  for (const [path, fields] of ODD_FORMS)
    await heard(`${path} ${JSON.stringify(fields)}`, post(app, path, ines.cookie, fields, true));
  for (const [path, body] of ODD_BODIES)
    await heard(`${path} ${JSON.stringify(body)}`, json(app, path, ines, body));
  for (const path of FORM_PAGES)
    for (const [type, body] of NO_FORMS) {
      const headers = { origin: app.origin, cookie: ines.cookie, ...(type ? { 'content-type': type } : {}) };
      const sent = fetch(app.origin + path, { method: 'POST', redirect: 'manual', headers, body });
      await heard(`${path} as ${type}`, sent);
    }
  expect(faults).toEqual([]);
});

/** Things of the demo, one of each kind. */
function thingsOf(app: App, self: number): Things {
  const database = new Database(join(app.data, 'early-bell.sqlite'), { readonly: true });
  const first = (table: string) => database.prepare(`SELECT min(id) FROM ${table}`).pluck().get() as number;
  const things = {
    ...{ task: first('task'), owner: first('person'), self, project: first('project') },
    ...{ section: first('section'), comment: first('comment'), entry: first('time_entry') },
    ...{ reminder: first('reminder'), list: first('saved_list'), change: first('change') },
    ...{ listChange: 1, rule: first('rule'), digest: first('digest'), sweep: first('sweep'), question: 1 }
  };
  database.close();
  return things;
}

/** Everything in what is sent that is words, made long by one piece repeated. */
function swollen(value: unknown, piece: string): unknown {
  if (typeof value === 'string') return piece.repeat(80_000 / piece.length);
  if (Array.isArray(value)) return value.map((one) => swollen(one, piece));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, swollen(one, piece)]));
}

/** Requests in each of which one field is eighty thousand characters long. */
function hostile(one: Ask, piece: string): Ask[] {
  const fields = Object.entries(one.form ?? (one.json as object | null) ?? {});
  return fields.flatMap(([name, value]) => {
    // A field that carries JSON is made long within.
    const inner = typeof value === 'string' && value.startsWith('{') ? (JSON.parse(value) as unknown) : null;
    const long = inner ? JSON.stringify(swollen(inner, piece)) : swollen(value, piece);
    if (long === value) return [];
    const whole = Object.fromEntries([...fields, [name, long]]);
    return [one.form ? { ...one, form: whole } : { ...one, json: whole }];
  });
}

test('no field of any form is a fault of ours or holds others, however long it is', async ({ app }) => {
  const ines = await comeIn(app, PEOPLE.administrator);
  const waits: number[] = [];
  let over = false;
  const watching = (async () => {
    while (!over) {
      const began = performance.now();
      await (await get(app, '/healthz')).text();
      waits.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
  })();
  const faults: string[] = [];
  const pieces = LONG ? [' ', '9', ',', 'a ', '-', '.', '‹', '\n'] : [' '];
  for (const [key, way] of Object.entries(ACT_WAYS))
    for (const piece of pieces)
      for (const one of way(thingsOf(app, ines.id)).flatMap((whole) => hostile(whole, piece))) {
        const answer = await (one.form
          ? post(app, one.path, ines.cookie, one.form, true)
          : json(app, one.path, ines, one.json));
        await answer.text();
        if (answer.status >= 500) faults.push(`${key} answered ${answer.status}`);
      }
  over = true;
  await watching;
  waits.sort((a, b) => a - b);
  const at = (share: number) => waits[Math.floor(waits.length * share)]!.toFixed(0);
  if (LONG)
    process.stdout.write(`  others waited p50 ${at(0.5)} ms, p99 ${at(0.99)} ms, most ${at(0.9999)} ms\n`);
  expect(faults).toEqual([]);
});
