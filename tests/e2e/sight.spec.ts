import { join } from 'node:path';
import Database from 'better-sqlite3';
import { may, type Role } from '../../src/lib/core/access/deeds.ts';
import { ROUTES } from '../../src/lib/server/auth/routes.ts';
import { expect, test, type App } from './app.ts';
import { comeIn, get, PEOPLE, post, type Person } from './http.ts';
import { ACT_WAYS, READ_WAYS, type Ask, type Things } from './ways.ts';

/**
 * Whatever somebody may not see shows by no way, and whatever they may not change, no way changes. A word of its own stands in each field of each kind
 * of object; everybody asks by every way for all of it, and what they were told is held against the table. A route or an act without a row fails.
 */
test.use({ appOptions: { demo: true, name: 'sight' } });

/** Which words stand in which field. */
const WORDS = {
  task: ['Quillname', 'Quilldescription', 'Quillcomment', 'Quilltag', 'Quillnote'],
  private: ['Quillhidden', 'Quillburied', 'Quillwhisper', 'Quillmark', 'Quillhours'],
  project: ['Quillproject'],
  'project, its page': ['Quillpurpose', 'Quillsection'],
  address: ['quillmail'],
  telephone: ['911 777 001'],
  list: ['Quilllist'],
  rule: ['Quillrule'],
  digest: ['Quilldigest'],
  sweep: ['Quillsweep']
} as const;
type Field = keyof typeof WORDS;

/** What somebody has to do with Alma and her tasks. */
type Relation =
  'herself' | 'none' | 'former owner' | 'co-owner' | 'member' | 'manager of her' | 'over everybody';
type Row = [name: string, role: Role, relation: Relation, sees: Field[]];

const WORK: Field[] = ['task', 'project', 'project, its page'];
/** Everybody of a team reaches everybody else. */
const REACHED: Field[] = ['address'];
const KEPT: Field[] = ['rule', 'digest', 'sweep'];
const TABLE: Row[] = [
  ['Alma Quist', 'owner', 'herself', [...WORK, ...REACHED, 'private', 'list', 'telephone']],
  ['Edda Lund', 'owner', 'none', REACHED],
  ['Cleo Amaral', 'owner', 'former owner', REACHED],
  ['Gus Okoro', 'owner', 'co-owner', ['task', 'project', ...REACHED]],
  ['Dov Ilves', 'owner', 'member', [...WORK, ...REACHED]],
  ['Bram Sorel', 'manager', 'manager of her', [...WORK, ...REACHED]],
  ['Finn Adair', 'manager', 'none', REACHED],
  [PEOPLE.coordinator, 'coordinator', 'over everybody', [...WORK, ...KEPT, ...REACHED, 'telephone']],
  [PEOPLE.administrator, 'administrator', 'over everybody', [...WORK, ...KEPT, ...REACHED, 'telephone']]
];

let things: Things;
/** The private task, and a change of it. */
let hidden: { task: number; change: number };
let alma: Person;
let database: Database.Database;

const ask = (app: App, { path, form, json }: Ask, { cookie }: Person): Promise<Response> => {
  if (form) return post(app, path, cookie, form, !path.endsWith('/new') && path.includes('?/'));
  if (json === undefined) return get(app, path, cookie);
  const headers = { origin: app.origin, cookie, 'content-type': 'application/json' };
  const body = json === null ? '' : JSON.stringify(json);
  return fetch(app.origin + path, { method: 'POST', redirect: 'manual', headers, body });
};

const one = (sql: string, ...values: unknown[]): number =>
  (database
    .prepare(sql)
    .pluck()
    .get(...values) as number | undefined) ?? 0;

/** What an act must have done. */
async function must(response: Promise<Response>): Promise<void> {
  const answer = await response;
  expect(answer.status, answer.url).toBeLessThan(400);
  expect(await answer.text()).not.toContain('"type":"failure"');
}

async function layOutPeople(app: App, ines: Person): Promise<void> {
  const calendarId = String(one('SELECT id FROM calendar ORDER BY id'));
  for (const [name, role] of [...TABLE.slice(0, 7)].sort(([a], [b]) => Number(a > b))) {
    if (one('SELECT id FROM person WHERE name = ?', name) !== 0) continue;
    const email =
      name === 'Alma Quist' ? 'quillmail@harbour.example' : `${name.split(' ')[0]}@harbour.example`;
    const rest = { zone: 'Europe/Lisbon', calendarId, managerId: '', groups: '', phone: '' };
    await must(post(app, '/people/new', ines.cookie, { name, role, email, ...rest }));
  }
  const bram = one("SELECT id FROM person WHERE name = 'Bram Sorel'");
  const self = one("SELECT id FROM person WHERE name = 'Alma Quist'");
  const basics = {
    name: 'Alma Quist',
    email: 'quillmail@harbour.example',
    zone: 'Europe/Lisbon',
    calendarId
  };
  const rest = { role: 'owner', managerId: String(bram), groups: '', phone: '+351 911 777 001' };
  await must(post(app, `/people/${self}?/basics`, ines.cookie, { ...basics, ...rest }));
}

async function layOut(app: App): Promise<void> {
  database = new Database(join(app.data, 'early-bell.sqlite'), { readonly: true });
  const ines = await comeIn(app, PEOPLE.administrator);
  await layOutPeople(app, ines);
  const idOf = (name: string) => one('SELECT id FROM person WHERE name = ?', name);
  const taskOf = (name: string) => one('SELECT id FROM task WHERE name = ?', name);
  alma = await comeIn(app, 'Alma Quist');

  await must(post(app, '/projects?/add', ines.cookie, { name: 'Quillproject', description: 'Quillpurpose' }));
  const project = one("SELECT id FROM project WHERE name = 'Quillproject'");
  const about = { name: 'Quillproject', description: 'Quillpurpose' };
  await must(post(app, `/projects/${project}?/save`, ines.cookie, about));
  await must(post(app, `/projects/${project}?/section`, ines.cookie, { name: 'Quillsection' }));
  const member = { personId: String(idOf('Dov Ilves')), role: 'member' };
  await must(post(app, `/projects/${project}?/member`, ines.cookie, member));

  const open = {
    ...{
      name: 'Quillname',
      description: 'Quilldescription',
      ownerId: idOf('Cleo Amaral'),
      tags: ['Quilltag']
    },
    ...{ projectId: project, otherOwnerIds: [idOf('Gus Okoro')], dueDate: '2026-03-09' }
  };
  await must(post(app, '/tasks/new', ines.cookie, { task: JSON.stringify(open) }));
  const task = taskOf('Quillname');
  // Cleo had it first.
  await must(
    ask(app, { path: `/tasks/${task}/field`, json: { patch: { ownerId: alma.id }, base: {} } }, ines)
  );
  const closed = {
    ...{ name: 'Quillhidden', description: 'Quillburied', ownerId: alma.id, private: true },
    ...{ projectId: project, tags: ['Quillmark'], dueDate: '2026-03-02' }
  };
  await must(post(app, '/tasks/new', alma.cookie, { task: JSON.stringify(closed) }));
  const secret = taskOf('Quillhidden');
  for (const [id, comment, note] of [
    [task, 'Quillcomment', 'Quillnote'],
    [secret, 'Quillwhisper', 'Quillhours']
  ] as const) {
    await must(post(app, `/tasks/${id}?/comment`, alma.cookie, { text: comment }));
    await must(post(app, `/tasks/${id}?/logTime`, alma.cookie, { time: '1:00', note }));
    await must(post(app, `/tasks/${id}?/remind`, alma.cookie, { when: 'due/6/day', whose: 'mine' }));
  }
  await must(post(app, '/tasks?/keep', alma.cookie, { name: 'Quilllist', query: 'text=quill' }));
  const list = one("SELECT id FROM saved_list WHERE name = 'Quilllist'");
  const kept = await layOutKept(app, ines);
  things = {
    ...{ task, owner: alma.id, self: 0, project },
    section: one("SELECT id FROM section WHERE name = 'Quillsection'"),
    comment: one('SELECT id FROM comment WHERE task_id = ?', task),
    entry: one('SELECT id FROM time_entry WHERE task_id = ?', task),
    reminder: one('SELECT id FROM reminder WHERE task_id = ?', task),
    list,
    change: changeOf('task', task),
    listChange: changeOf('saved_list', list),
    ...kept,
    question: one('SELECT id FROM sweep_question')
  };
  hidden = { task: secret, change: changeOf('task', secret) };
}

const changeOf = (table: string, id: number) =>
  one('SELECT max(change_id) FROM change_row WHERE table_name = ? AND row_id = ?', table, id);

/** A rule, a digest and a sweep that are not on, each with a name of its own. */
async function layOutKept(app: App, ines: Person) {
  await must(post(app, '/rules?/add', ines.cookie, {}, true));
  await must(post(app, '/digests?/add', ines.cookie, {}, true));
  await must(post(app, '/sweeps?/add', ines.cookie, { act: 'close' }, true));
  const ids = ['rule', 'digest', 'sweep'].map((table) => one(`SELECT max(id) FROM ${table}`));
  const [rule, digest, sweep] = ids as [number, number, number];
  // The names alone: what else a form of them sends is not what this is about.
  const writes = new Database(join(app.data, 'early-bell.sqlite'));
  writes.prepare("UPDATE rule SET name = 'Quillrule' WHERE id = ?").run(rule);
  writes.prepare("UPDATE digest SET name = 'Quilldigest' WHERE id = ?").run(digest);
  writes.prepare("UPDATE sweep SET name = 'Quillsweep' WHERE id = ?").run(sweep);
  writes.close();
  return { rule, digest, sweep };
}

/** Every row that hangs on Alma, her tasks and their project. */
function rowsOf(tasks: readonly number[], { project, owner, list }: Things): unknown {
  const ids = tasks.join(', ');
  const all = (sql: string, ...values: unknown[]) => database.prepare(sql).all(...values);
  return {
    task: all(`SELECT * FROM task WHERE id IN (${ids}) OR parent_id IN (${ids})`),
    ...Object.fromEntries(
      ['comment', 'time_entry', 'reminder', 'task_tag', 'co_owner', 'promise', 'field_value'].map((table) => [
        table,
        all(`SELECT * FROM ${table} WHERE task_id IN (${ids})`)
      ])
    ),
    link: all(`SELECT * FROM task_link WHERE task_id IN (${ids}) OR to_task_id IN (${ids})`),
    project: all('SELECT * FROM project WHERE id = ?', project),
    section: all('SELECT * FROM section WHERE project_id = ?', project),
    member: all('SELECT * FROM project_member WHERE project_id = ?', project),
    person: all('SELECT * FROM person WHERE id = ?', owner),
    leave: all('SELECT * FROM leave WHERE person_id = ?', owner),
    move: all('SELECT * FROM person_zone WHERE person_id = ?', owner),
    list: all('SELECT * FROM saved_list WHERE id = ?', list)
  };
}

/** Which fields' words stand in an answer. */
const told = (text: string): Field[] =>
  (Object.keys(WORDS) as Field[]).filter((field) => WORDS[field].some((word) => text.includes(word)));

test.beforeAll(({ app }) => layOut(app));
test.afterAll(() => database.close());

test('every way has a row', () => {
  const reads = Object.entries(ROUTES).flatMap(([route, { read }]) => (read ? [route] : []));
  expect(Object.keys(READ_WAYS).sort()).toEqual(reads.sort());
  const acts = Object.entries(ROUTES).flatMap(([route, { acts = {} }]) =>
    Object.keys(acts).map((act) => `${route} ${act}`)
  );
  expect(Object.keys(ACT_WAYS).sort()).toEqual(acts.sort());
});

for (const [name, role, relation, sees] of TABLE) {
  test(`${role}, ${relation}: sees ${sees.join(', ')}, and nothing else by any way`, async ({ app }) => {
    const person = await comeIn(app, name);
    const seen = new Set<Field>();
    const wrong: string[] = [];
    for (const task of [things.task, hidden.task])
      for (const [route, way] of Object.entries(READ_WAYS)) {
        const change = task === hidden.task ? hidden.change : things.change;
        for (const one of way({ ...things, task, change, self: person.id })) {
          const response = await ask(app, one, person);
          const text = await response.text();
          if (response.status >= 500) wrong.push(`${one.path} answered ${response.status}`);
          for (const field of told(text)) {
            seen.add(field);
            if (!sees.includes(field)) wrong.push(`${route} (${one.path}) told of the ${field}`);
          }
        }
      }
    expect(wrong).toEqual([]);
    // What may be seen is seen, each word of it, so that the ways above do reach what they ask for.
    expect([...seen].sort()).toEqual([...sees].sort());
  });
}

/** Who tries to change what, and what of it is not theirs. */
const TRIES: [name: string, role: Role, of: 'open' | 'hidden'][] = [
  ['Edda Lund', 'owner', 'open'],
  ['Cleo Amaral', 'owner', 'open'],
  ['Dov Ilves', 'owner', 'open'],
  ['Finn Adair', 'manager', 'open'],
  ['Gus Okoro', 'owner', 'hidden'],
  ['Bram Sorel', 'manager', 'hidden'],
  [PEOPLE.coordinator, 'coordinator', 'hidden'],
  [PEOPLE.administrator, 'administrator', 'hidden']
];

for (const [name, role, of] of TRIES) {
  test(`${name}, ${role}: no act changes what is not theirs, or tells of it`, async ({ app }) => {
    const person = await comeIn(app, name);
    const about = of === 'open' ? things : { ...things, ...hidden };
    const sees = TABLE.find(([one]) => one === name)![3];
    const before = rowsOf([about.task], things);
    const wrong: string[] = [];
    for (const [key, way] of Object.entries(ACT_WAYS)) {
      const [route, act] = [key.slice(0, key.lastIndexOf(' ')), key.slice(key.lastIndexOf(' ') + 1)];
      const deed = ROUTES[route]!.acts![act]!;
      // Refused by role: every route and act is asked for that elsewhere. What coordinators may do to a person or a project is theirs to do.
      if (deed === 'anybody' || !may(role, deed)) continue;
      if (of === 'hidden' && role !== 'owner' && !aboutTask(key)) continue;
      for (const one of way({ ...about, self: person.id })) {
        const response = await ask(app, one, person);
        const text = await response.text();
        if (response.status >= 500) wrong.push(`${key} answered ${response.status}`);
        for (const field of told(text)) if (!sees.includes(field)) wrong.push(`${key} told of the ${field}`);
        const now = rowsOf([about.task], things);
        if (JSON.stringify(now) !== JSON.stringify(before)) {
          wrong.push(`${key} changed it by ${JSON.stringify(one)}`);
          expect(now).toEqual(before);
        }
      }
    }
    expect(wrong).toEqual([]);
  });
}

/** Acts that name the private task, for those who may change everything else. */
const aboutTask = (key: string) =>
  /^\/\(app\)\/(tasks|escalations|quick-add|undo|changes|bell|digests|rules\/\[id\]\/(try|words|forecast|hindsight))/.test(
    key
  );

/** Asks by every way, and does every act, with other ids than things have. @returns what answered with a fault of ours */
async function faultsOf(app: App, person: Person, ids: Partial<Things>): Promise<string[]> {
  const faults: string[] = [];
  for (const [key, way] of [...Object.entries(READ_WAYS), ...Object.entries(ACT_WAYS)])
    for (const one of way({ ...things, self: person.id, ...ids })) {
      const answer = await ask(app, one, person);
      await answer.text();
      const { status } = answer;
      if (status >= 500) faults.push(`${key} (${one.path}) answered ${status}`);
    }
  return faults;
}

/** `npm run attack` tries them all. */
const ODD_IDS = [999_999, NaN, 0, -1, 1.5, 1e21, 2 ** 53];

test('no id is a fault of ours: of nothing, of another kind, of what is no number', async ({ app }) => {
  const person = await comeIn(app, PEOPLE.administrator);
  const names = Object.keys(things) as (keyof Things)[];
  const all = (value: number) => Object.fromEntries(names.map((name) => [name, value])) as unknown as Things;
  const faults: string[] = [];
  for (const value of process.env.ATTACK === 'long' ? ODD_IDS : ODD_IDS.slice(0, 2))
    faults.push(...(await faultsOf(app, person, all(value))));
  // Each gets the id of the one before it.
  const ofOthers = names.map((name, i) => [name, things[names.at(i - 1)!]]);
  faults.push(...(await faultsOf(app, person, { ...Object.fromEntries(ofOthers), owner: things.task })));
  expect(faults).toEqual([]);
});

test('what lies in the bin or the archive, and what was taken back, is no fault of ours', async ({ app }) => {
  const person = await comeIn(app, PEOPLE.administrator);
  const faults: string[] = [];
  for (const away of ['bin', 'archive'] as const) {
    const name = `Gone to the ${away}`;
    await must(post(app, '/tasks/new', person.cookie, { task: JSON.stringify({ name }) }));
    const task = one('SELECT id FROM task WHERE name = ?', name);
    await must(
      ask(app, { path: `/tasks/${task}/field`, json: { patch: { priority: 'high' }, base: {} } }, person)
    );
    const change = changeOf('task', task);
    await must(ask(app, { path: '/undo', json: { changeId: change } }, person));
    await must(post(app, `/tasks/${task}?/${away}`, person.cookie, {}, true));
    faults.push(...(await faultsOf(app, person, { task, change })));
  }
  expect(faults).toEqual([]);
});
