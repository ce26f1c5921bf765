import { blankDefinition } from '../../src/lib/core/rule/model.ts';
import { blankDigest } from '../../src/lib/core/digest/model.ts';
import { blankSweep } from '../../src/lib/core/sweep/model.ts';

/** What somebody asks for who should not get it: their ids. */
export interface Things {
  /** A task that is private, or not theirs to change. */
  task: number;
  /** Its owner, and who asks. */
  owner: number;
  self: number;
  project: number;
  section: number;
  /** What its owner said and logged. */
  comment: number;
  entry: number;
  reminder: number;
  /** A list that its owner keeps to themselves. */
  list: number;
  /** A change of it, and one of that list. */
  change: number;
  listChange: number;
  rule: number;
  digest: number;
  sweep: number;
  question: number;
}

/** One request. Without a form or JSON it only reads. */
export interface Ask {
  path: string;
  form?: Record<string, string>;
  json?: unknown;
}

type Way = (things: Things) => Ask[];

const at = (...paths: string[]): Ask[] => paths.map((path) => ({ path }));
/** It names nothing that is somebody's: whatever is asked for there is the asker's own, or nobody's. */
const OF_NOBODY: Way = () => [];
const everything = 'show=all';

/** Every route that can be read, and where something closed might show there. */
export const READ_WAYS: Readonly<Record<string, Way>> = {
  '/act/[token]': OF_NOBODY,
  '/t/[token]': OF_NOBODY,
  '/mail/[token]': OF_NOBODY,
  '/healthz': () => at('/healthz'),
  '/readyz': () => at('/readyz'),
  '/metrics': () => at('/metrics'),
  // The demo lets everybody in as anybody, so names stand there; no other field does.
  '/sign-in': () => at('/sign-in'),
  '/sign-in/forgotten': () => at('/sign-in/forgotten'),
  '/password/[token]': OF_NOBODY,
  '/begin/[token]': OF_NOBODY,
  '/(app)': () => at('/'),
  '/(app)/bell': () => at('/bell'),
  '/(app)/go': () => at('/go?text=quill', '/go?text=alma'),
  '/(app)/bell/next': () => at('/bell/next'),
  // A stream, which carries nothing but that something moved.
  '/(app)/live': OF_NOBODY,
  '/(app)/desk': () => at('/desk', '/desk?rhythm=weekly'),
  '/(app)/told': () => at('/told'),
  '/(app)/desk/rows': () => at('/desk/rows?of=today', '/desk/rows?of=to-place', '/desk/rows?of=parked'),
  '/(app)/desk/sheet': ({ task }) => at(`/desk/sheet?task=${task}`, `/desk/sheet?task=${task}&round=evening`),
  '/(app)/desk/round': () => at('/desk/round', '/desk/round?of=evening'),
  '/(app)/people/[id]/desk': ({ owner }) => at(`/people/${owner}/desk`),
  '/(app)/people/[id]/desk/rows': ({ owner }) =>
    ['today', 'to-place', 'undated', 'parked', 'finished'].flatMap((of) =>
      at(`/people/${owner}/desk/rows?of=${of}`)
    ),
  '/(app)/escalations': ({ owner }) => at('/escalations', `/escalations?person=${owner}`),
  '/(app)/tasks/(list)': ({ project, owner }) =>
    at(
      `/tasks?${everything}&text=quill`,
      `/tasks?${everything}&owner=${owner}`,
      `/tasks?${everything}&project=${project}`,
      `/tasks?${everything}&text=quill&group=tag`,
      '/tasks?shape=columns&text=quill',
      '/tasks?shape=days&month=2026-03&text=quill'
    ),
  '/(app)/tasks/rows': () => at(`/tasks/rows?${everything}&text=quill`),
  '/(app)/tasks/export/[file]': () =>
    ['csv', 'jsonl'].flatMap((kind) => at(`/tasks/export/tasks.${kind}?${everything}&text=quill`)),
  '/(app)/tasks/new': ({ task, project }) => at('/tasks/new', `/tasks/new?parent=${task}&project=${project}`),
  '/(app)/tasks/(list)/[id]/bells': ({ task }) => at(`/tasks/${task}/bells`),
  '/(app)/tasks/(list)/[id]': ({ task }) => at(`/tasks/${task}`, `/tasks/${task}?${everything}`),
  '/(app)/projects': () => at('/projects'),
  '/(app)/projects/[id]': ({ project }) => at(`/projects/${project}`),
  '/(app)/tasks/import': () => at('/tasks/import'),
  '/(app)/tasks/import/[token]': OF_NOBODY,
  '/(app)/tasks/import/[token]/progress': OF_NOBODY,
  '/(app)/rules': () => at('/rules'),
  '/(app)/rules/starters': () => at('/rules/starters'),
  '/(app)/rules/[id]': ({ rule }) => at(`/rules/${rule}`),
  '/(app)/rules/shared': () => at('/rules/shared'),
  '/(app)/rules/[id]/runs': ({ rule }) => at(`/rules/${rule}/runs`),
  '/(app)/rules/[id]/runs/[run]': ({ rule }) => at(`/rules/${rule}/runs/1`),
  '/(app)/rules/[id]/basis': ({ rule }) => at(`/rules/${rule}/basis`),
  '/(app)/rules/[id]/versions': ({ rule }) => at(`/rules/${rule}/versions`),
  '/(app)/rules/[id]/copy': ({ rule }) => at(`/rules/${rule}/copy`),
  '/(app)/people': () => at('/people', '/people?who=all'),
  '/(app)/people/new': () => at('/people/new'),
  '/(app)/people/[id]': ({ owner }) => at(`/people/${owner}`),
  '/(app)/people/[id]/hand-over': ({ owner }) => at(`/people/${owner}/hand-over`),
  '/(app)/people/leave': () => at('/people/leave'),
  '/(app)/people/sheet': () => at('/people/sheet'),
  '/(app)/people/sheet/people.csv': () => at('/people/sheet/people.csv'),
  '/(app)/people/contacts': () => at('/people/contacts'),
  '/(app)/calendars': () => at('/calendars'),
  '/(app)/calendars/[id]': () => at('/calendars/1'),
  '/(app)/calendars/[id]/calendar.ics': () => at('/calendars/1/calendar.ics'),
  '/(app)/settings': () => at('/settings'),
  '/(app)/settings/channels': () => at('/settings/channels'),
  '/(app)/digests': () => at('/digests'),
  '/(app)/digests/[id]': ({ digest }) => at(`/digests/${digest}`),
  '/(app)/sweeps': () => at('/sweeps'),
  '/(app)/sweeps/[id]': ({ sweep }) => at(`/sweeps/${sweep}`),
  '/(app)/sweeps/runs/[run]': () => at('/sweeps/runs/1'),
  '/(app)/sweeps/asked': () => at('/sweeps/asked'),
  '/(app)/outbox': () => at('/outbox', '/outbox?text=quill'),
  '/(app)/outbox/[file]': () => at('/outbox/outbox.csv', '/outbox/outbox.jsonl'),
  '/(app)/journal': ({ task }) => at('/journal', `/journal?task=${task}`),
  '/(app)/journal/[file]': () => at('/journal/journal.csv', '/journal/journal.jsonl'),
  '/(app)/post-room': () => at('/post-room?text=quill'),
  '/(app)/post-room/[key]': () => at('/post-room/mail-1', '/post-room/1'),
  '/(app)/changes/[id]': ({ change, listChange }) => at(`/changes/${change}`, `/changes/${listChange}`)
};

const form = (path: string, fields: Record<string, unknown> = {}): Ask[] => [
  { path, form: Object.fromEntries(Object.entries(fields).map(([name, value]) => [name, String(value)])) }
];
const json = (path: string, ...bodies: unknown[]): Ask[] => bodies.map((body) => ({ path, json: body }));
const PATCH = { name: 'Taken', priority: 'high', description: 'Taken', tags: ['taken'] };
const ruleInput = { name: 'Another', description: '', definition: blankDefinition() };
const BULK = [
  ...[{ act: 'priority', priority: 'high' }, { act: 'due', date: '2026-03-20' }, { act: 'bin' }],
  ...[{ act: 'park', date: null }, { act: 'archive' }, { act: 'tag', name: 'taken' }]
];
const bulk =
  (preview: boolean): Way =>
  ({ task, self }) =>
    json(
      '/tasks/bulk',
      ...[...BULK, { act: 'owner', id: self }].flatMap((change) => [
        { ids: [task], change, preview },
        { ids: null, query: 'show=all&text=quill', change, preview }
      ])
    );
const onTask =
  (act: string, fields: (things: Things) => Record<string, unknown> = () => ({})): Way =>
  (things) =>
    form(`/tasks/${things.task}?/${act}`, fields(things));
const onOwner =
  (act: string, fields: Record<string, unknown> = {}): Way =>
  ({ owner }) =>
    form(`/people/${owner}?/${act}`, fields);
const onProject =
  (act: string, fields: (things: Things) => Record<string, unknown> = () => ({})): Way =>
  (things) =>
    form(`/projects/${things.project}?/${act}`, fields(things));

/** Every act of every route, as somebody would try it on what is not theirs. `route act` is the key. */
export const ACT_WAYS: Readonly<Record<string, Way>> = {
  // By a link of its own, which opens one task to one reader: held in the tests of act links.
  '/act/[token] do': OF_NOBODY,
  '/act/[token] undo': OF_NOBODY,
  '/mail/[token] default': OF_NOBODY,
  '/receipts/text/[key] POST': OF_NOBODY,
  '/sign-in default': OF_NOBODY,
  '/sign-in/demo POST': OF_NOBODY,
  '/sign-in/forgotten default': OF_NOBODY,
  '/password/[token] default': OF_NOBODY,
  '/begin/[token] default': OF_NOBODY,
  '/sign-out POST': OF_NOBODY,
  '/(app) rush': OF_NOBODY,
  '/(app) uncount': ({ list }) => form('/?/uncount', { id: list }),
  '/(app) works': OF_NOBODY,
  '/(app) standing': OF_NOBODY,
  '/(app) week': OF_NOBODY,
  '/(app) begin': OF_NOBODY,
  '/(app) sample': OF_NOBODY,
  '/(app) unsample': OF_NOBODY,
  '/(app)/bell POST': () => json('/bell', { id: 1 }),
  '/(app)/escalations acknowledge': ({ task }) =>
    form('/escalations?/acknowledge', { task, date: '2026-03-20', note: 'Taken' }),
  '/(app)/escalations answer': () => form('/escalations?/answer', { promise: 1, answer: 'agreed' }),
  '/(app)/desk/effect POST': ({ task }) =>
    json('/desk/effect', { taskIds: [task], to: 'day', day: '2026-03-12', newDue: '2026-03-12' }),
  '/(app)/desk/acts POST': ({ task, question }) => {
    const place = { act: 'place', taskIds: [task], newDue: '2026-03-20' };
    return json(
      '/desk/acts',
      ...['leave', 'today', 'after'].map((to) => ({ ...place, to })),
      { ...place, to: 'day', day: '2026-03-12' },
      { act: 'order', taskIds: [task] },
      { act: 'back', taskId: task, word: 'Taken' },
      { act: 'park', taskId: task, reviewDate: '2026-03-20' },
      { act: 'finish', taskId: task, withSubtasks: true },
      { act: 'ask', taskId: task },
      { act: 'word', kind: 'acknowledge', id: task, answer: '2026-03-20' },
      { act: 'word', kind: 'time', id: task, answer: '1h' },
      { act: 'word', kind: 'still needed', id: question, answer: 'close' }
    );
  },
  '/(app)/sending POST': OF_NOBODY,
  '/(app)/sending/keep POST': OF_NOBODY,
  '/(app)/days POST': () => json('/days', {}, { task: { owner: null, project: null } }),
  '/(app)/quick-add POST': () =>
    json('/quick-add', ...['Taken #Quillproj', 'Taken @Alma'].map((line) => ({ line, add: false }))),
  '/(app)/tasks/(list) keep': ({ list }) =>
    form('/tasks?/keep', { id: list, name: 'Taken', query: 'text=quill' }),
  '/(app)/tasks/(list) drop': ({ list }) => form('/tasks?/drop', { id: list }),
  '/(app)/tasks/bulk POST': (things) => [...bulk(true)(things), ...bulk(false)(things)],
  '/(app)/tasks/bulk/ready POST': OF_NOBODY,
  '/(app)/tasks/new default': ({ task, project, owner }) => [
    ...form('/tasks/new', { task: JSON.stringify({ name: 'Taken', parentId: task }) }),
    ...form('/tasks/new', { task: JSON.stringify({ name: 'Taken', projectId: project, ownerId: owner }) })
  ],
  '/(app)/tasks/(list)/[id] save': onTask('save', () => ({ task: JSON.stringify(PATCH) })),
  '/(app)/tasks/(list)/[id] comment': onTask('comment', () => ({ text: 'Taken' })),
  '/(app)/tasks/(list)/[id] dropComment': onTask('dropComment', ({ comment }) => ({ comment })),
  '/(app)/tasks/(list)/[id] logTime': onTask('logTime', () => ({ time: '1h', note: 'Taken' })),
  '/(app)/tasks/(list)/[id] dropTime': onTask('dropTime', ({ entry }) => ({ entry })),
  '/(app)/tasks/(list)/[id] remind': onTask('remind', () => ({ when: 'due/-1/day', whose: 'everybody' })),
  '/(app)/tasks/(list)/[id] dropReminder': onTask('dropReminder', ({ reminder }) => ({ reminder })),
  '/(app)/tasks/(list)/[id] connect': onTask('connect', ({ project }) => ({ project })),
  '/(app)/tasks/(list)/[id] disconnect': onTask('disconnect', () => ({ link: 1 })),
  '/(app)/tasks/(list)/[id] contacts': onTask('contacts', () => ({ contact: 1 })),
  '/(app)/tasks/(list)/[id] subtask': onTask('subtask', () => ({ name: 'Taken' })),
  '/(app)/tasks/(list)/[id] park': onTask('park', () => ({ reviewDate: '2026-03-20' })),
  '/(app)/tasks/(list)/[id] archive': onTask('archive'),
  '/(app)/tasks/(list)/[id] bin': onTask('bin'),
  '/(app)/tasks/(list)/[id] restore': onTask('restore'),
  '/(app)/tasks/(list)/[id] hush': onTask('hush', () => ({ until: '2026-03-20', note: 'Taken' })),
  '/(app)/tasks/(list)/[id] unhush': onTask('unhush', () => ({ hush: 1 })),
  '/(app)/tasks/(list)/[id] acknowledge': onTask('acknowledge', () => ({
    date: '2026-03-20',
    note: 'Taken'
  })),
  '/(app)/tasks/(list)/[id] answerPromise': onTask('answerPromise', () => ({ promise: 1, answer: 'agreed' })),
  '/(app)/tasks/(list)/[id] reminded': onTask('reminded', () => ({ reminder: 1 })),
  '/(app)/tasks/(list)/[id] snooze': onTask('snooze', () => ({ notice: 1, until: 'tomorrow' })),
  '/(app)/tasks/(list)/[id] ring': onTask('ring', ({ rule }) => ({ rule })),
  '/(app)/tasks/(list)/[id] answer': onTask('answer', () => ({ status: 3 })),
  '/(app)/tasks/(list)/[id]/effect POST': ({ task }) => json(`/tasks/${task}/effect`, PATCH),
  '/(app)/tasks/(list)/[id]/snooze POST': ({ task }) => json(`/tasks/${task}/snooze`, { notice: 1 }),
  '/(app)/tasks/(list)/[id]/field POST': ({ task }) =>
    json(`/tasks/${task}/field`, { patch: PATCH }, { patch: { private: false } }),
  '/(app)/projects add': OF_NOBODY,
  '/(app)/projects/[id] save': onProject('save', () => ({ name: 'Taken', state: 'open' })),
  '/(app)/projects/[id] hush': onProject('hush', () => ({ until: '2026-03-20', note: 'Taken' })),
  '/(app)/projects/[id] unhush': onProject('unhush', () => ({ hush: 1 })),
  '/(app)/projects/[id] member': onProject('member', ({ self }) => ({ personId: self, role: 'member' })),
  '/(app)/projects/[id] dropMember': onProject('dropMember', () => ({ member: 1 })),
  '/(app)/projects/[id] section': onProject('section', ({ section }) => ({ section, name: 'Taken' })),
  '/(app)/projects/[id] moveSection': onProject('moveSection', ({ section }) => ({ section, by: 'up' })),
  '/(app)/projects/[id] dropSection': onProject('dropSection', ({ section }) => ({ section })),
  '/(app)/projects/[id]/effect POST': ({ project }) =>
    json(`/projects/${project}/effect`, { name: 'Taken', state: 'called off' }),
  '/(app)/tasks/import/upload PUT': OF_NOBODY,
  '/(app)/tasks/import/[token] choose': OF_NOBODY,
  '/(app)/tasks/import/[token] nearest': OF_NOBODY,
  '/(app)/tasks/import/[token] mend': OF_NOBODY,
  '/(app)/tasks/import/[token] import': OF_NOBODY,
  '/(app)/tasks/import/[token]/effect POST': OF_NOBODY,
  '/(app)/rules add': OF_NOBODY,
  '/(app)/rules move': ({ rule }) => form('/rules?/move', { rule, by: 'up' }),
  '/(app)/rules/starters take': OF_NOBODY,
  '/(app)/rules/[id] save': ({ rule }) =>
    form(`/rules/${rule}?/save`, { rule: JSON.stringify({ ...ruleInput, name: 'Quillrule' }) }),
  '/(app)/rules/[id] turnOn': ({ rule }) =>
    form(`/rules/${rule}?/turnOn`, { rule: JSON.stringify({ ...ruleInput, name: 'Quillrule' }) }),
  '/(app)/rules/[id] turnOff': ({ rule }) => form(`/rules/${rule}?/turnOff`),
  '/(app)/rules/[id] discard': ({ rule }) => form(`/rules/${rule}?/discard`),
  '/(app)/rules/[id] hush': ({ rule }) => form(`/rules/${rule}?/hush`, { until: 'no date' }),
  '/(app)/rules/[id] unhush': ({ rule }) => form(`/rules/${rule}?/unhush`, { hush: 999_999 }),
  '/(app)/rules/hand POST': ({ rule, task, project }) =>
    json('/rules/hand', { rule, ids: [task], preview: true }, { rule, project, preview: true }),
  '/(app)/rules/shared readers': OF_NOBODY,
  '/(app)/rules/shared dropReaders': OF_NOBODY,
  '/(app)/rules/shared template': OF_NOBODY,
  '/(app)/rules/shared dropTemplate': OF_NOBODY,
  '/(app)/rules/[id]/forecast POST': ({ rule }) => json(`/rules/${rule}/forecast`, ruleInput),
  '/(app)/rules/[id]/nameless POST': ({ rule }) => json(`/rules/${rule}/nameless`, {}),
  '/(app)/rules/[id]/off POST': ({ rule }) => json(`/rules/${rule}/off`, {}),
  '/(app)/rules/[id]/try POST': ({ rule, task }) => json(`/rules/${rule}/try?task=${task}`, ruleInput),
  '/(app)/rules/[id]/try/send POST': ({ rule, task }) =>
    json(`/rules/${rule}/try/send?task=${task}&message=none`, ruleInput),
  '/(app)/rules/[id]/words POST': ({ rule, task }) => json(`/rules/${rule}/words?task=${task}`, ruleInput),
  '/(app)/rules/[id]/hindsight POST': ({ rule }) => json(`/rules/${rule}/hindsight`, ruleInput),
  '/(app)/rules/[id]/beside POST': ({ rule }) => json(`/rules/${rule}/beside`, ruleInput),
  '/(app)/rules/[id]/check POST': ({ rule }) => json(`/rules/${rule}/check`, ruleInput),
  '/(app)/rules/[id]/versions restore': ({ rule }) =>
    form(`/rules/${rule}/versions?/restore`, { version: 9 }),
  '/(app)/rules/[id]/copy default': OF_NOBODY,
  '/(app)/people/new default': OF_NOBODY,
  '/(app)/told quiet': OF_NOBODY,
  '/(app)/told channels': OF_NOBODY,
  '/(app)/told leave': OF_NOBODY,
  '/(app)/told dropLeave': () => form('/told?/dropLeave', { leave: 1 }),
  '/(app)/told remind': OF_NOBODY,
  '/(app)/told dropRemind': () => form('/told?/dropRemind', { id: 1 }),
  '/(app)/told hush': OF_NOBODY,
  '/(app)/told unhush': () => form('/told?/unhush', { hush: 1 }),
  '/(app)/told/effect POST': OF_NOBODY,
  '/(app)/people/[id] basics': onOwner('basics', {
    ...{ name: 'Taken', email: 'taken@elsewhere.example', phone: '12345', zone: 'Asia/Muscat' },
    ...{ calendarId: 1, role: 'administrator' }
  }),
  '/(app)/people/[id] hush': onOwner('hush', { until: '2026-03-20', note: 'Taken' }),
  '/(app)/people/[id] unhush': onOwner('unhush', { hush: 1 }),
  '/(app)/people/[id] move': onOwner('move', { from: '2026-04-01', zone: 'Asia/Muscat' }),
  '/(app)/people/[id] dropMove': onOwner('dropMove', { from: '2026-05-01' }),
  '/(app)/people/[id] leave': onOwner('leave', {
    ...{ from: '2026-03-10', to: '2026-03-12', anyway: 'on', note: '' }
  }),
  '/(app)/people/[id] dropLeave': onOwner('dropLeave', { leave: 1 }),
  '/(app)/people/[id] quiet': onOwner('quiet', { quiet: '01:00-02:00', dailyCap: 3 }),
  '/(app)/people/[id] channels': onOwner('channels', { chat: 'taken' }),
  '/(app)/people/[id] signOutEverywhere': onOwner('signOutEverywhere'),
  '/(app)/people/[id] invite': onOwner('invite'),
  '/(app)/people/[id] deactivate': onOwner('deactivate'),
  '/(app)/people/[id] activate': onOwner('activate'),
  '/(app)/people/[id] erase': onOwner('erase'),
  '/(app)/people/[id]/hand-over default': ({ owner, self }) =>
    form(`/people/${owner}/hand-over`, { work: self, keeping: self, people: self }),
  '/(app)/people/[id]/hand-over/effect POST': ({ owner, self }) =>
    json(`/people/${owner}/hand-over/effect`, { work: self, keeping: null, people: null, deactivate: false }),
  '/(app)/people/leave look': OF_NOBODY,
  '/(app)/people/leave confirm': OF_NOBODY,
  '/(app)/people/sheet look': OF_NOBODY,
  '/(app)/people/sheet confirm': OF_NOBODY,
  '/(app)/people/contacts save': OF_NOBODY,
  '/(app)/people/contacts remove': OF_NOBODY,
  '/(app)/calendars add': OF_NOBODY,
  '/(app)/calendars/[id] save': () => form('/calendars/1?/save', { calendar: '{"name":"Taken"}' }),
  '/(app)/calendars/[id] remove': () => form('/calendars/1?/remove'),
  '/(app)/calendars/[id]/effect POST': () => json('/calendars/1/effect', { name: 'Taken' }),
  '/(app)/calendars/[id]/holidays POST': OF_NOBODY,
  '/(app)/settings save': () => form('/settings?/save', { settings: '{}' }),
  '/(app)/settings status': OF_NOBODY,
  '/(app)/settings dropStatus': OF_NOBODY,
  '/(app)/settings field': OF_NOBODY,
  '/(app)/settings dropField': OF_NOBODY,
  // It ends the demo for everybody that comes after.
  '/(app)/settings clearSample': OF_NOBODY,
  '/(app)/settings/channels save': OF_NOBODY,
  '/(app)/settings/channels test': OF_NOBODY,
  '/(app)/settings/effect POST': () => json('/settings/effect?status=1&phase=finished', null),
  '/(app)/digests add': OF_NOBODY,
  '/(app)/digests/[id] save': OF_NOBODY,
  '/(app)/digests/[id] turn': OF_NOBODY,
  '/(app)/digests/[id] drop': OF_NOBODY,
  '/(app)/digests/[id]/preview POST': ({ digest, owner }) =>
    [owner, 0].flatMap((person) =>
      json(`/digests/${digest}/preview`, {
        digest: {
          ...{ name: 'D', description: '' },
          definition: { ...blankDigest(), to: [{ who: 'person', id: owner }] }
        },
        ...{ person, date: '2026-03-09', time: '09:00' }
      })
    ),
  '/(app)/sweeps add': OF_NOBODY,
  '/(app)/sweeps/[id] save': OF_NOBODY,
  '/(app)/sweeps/[id] turn': OF_NOBODY,
  '/(app)/sweeps/[id] drop': OF_NOBODY,
  '/(app)/sweeps/[id] look': ({ sweep }) => form(`/sweeps/${sweep}?/look`),
  '/(app)/sweeps/[id]/now POST': ({ sweep }) =>
    json(`/sweeps/${sweep}/now`, null, { name: 'S', definition: blankSweep('close') }),
  '/(app)/sweeps/runs/[run] run': OF_NOBODY,
  '/(app)/sweeps/runs/[run] stop': OF_NOBODY,
  '/(app)/sweeps/runs/[run] halt': OF_NOBODY,
  '/(app)/sweeps/runs/[run] resume': OF_NOBODY,
  '/(app)/sweeps/runs/[run] undo': OF_NOBODY,
  '/(app)/sweeps/runs/[run]/effect POST': () => json('/sweeps/runs/1/effect', {}),
  '/(app)/sweeps/runs/[run]/tick POST': ({ task }) =>
    json('/sweeps/runs/1/tick', { ids: [task], ticked: false }),
  '/(app)/sweeps/asked answer': ({ question }) =>
    form('/sweeps/asked?/answer', { id: question, answer: 'close' }),
  '/(app)/post-room fault': OF_NOBODY,
  '/(app)/clock POST': OF_NOBODY,
  '/(app)/changes/[id] undo': ({ change, listChange }) =>
    [change, listChange].flatMap((id) => form(`/changes/${id}?/undo`)),
  '/(app)/changes/[id] tell': ({ change }) => form(`/changes/${change}?/tell`),
  '/(app)/changes/[id]/preview POST': ({ change, listChange }) =>
    [change, listChange].flatMap((id) => json(`/changes/${id}/preview`, {})),
  '/(app)/undo POST': ({ change, listChange }) =>
    json('/undo', { changeId: change }, { changeId: listChange })
};
