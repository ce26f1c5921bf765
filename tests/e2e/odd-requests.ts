/** Addresses that nobody gets by pressing something: cursors edited by hand, years at the ends of the calendar, names that every object has. */
export const ODD_ADDRESSES: readonly string[] = [
  '/tasks/rows?after=xx',
  '/tasks/rows?after=' + encodeURIComponent('["a",{}]'),
  '/tasks/rows?after=' + Buffer.from('[1,{}]').toString('base64url'),
  '/tasks/rows?after=' + Buffer.from('["2026","x",9,8,7]').toString('base64url'),
  '/tasks/rows?after=W10',
  '/tasks?from=0001-01-01&until=0001-01-02',
  '/tasks?from=9999-12-31',
  '/tasks?shape=days&month=0001-01',
  '/tasks?shape=days&month=9999-12',
  '/tasks?shape=days&month=0000-00',
  '/tasks?sort=constructor',
  '/tasks?sort=toString&group=__proto__',
  '/tasks?show=constructor',
  '/tasks?due=constructor',
  '/tasks?priority=__proto__',
  '/tasks?band=constructor',
  '/tasks?shape=constructor',
  '/journal?way=constructor',
  '/journal?from=0001-01-01&until=0001-01-01',
  '/outbox?end=constructor&from=0001-01-01',
  '/outbox?page=-1',
  '/outbox?before=abc',
  '/journal?before=1e400',
  '/post-room?channel=constructor',
  '/post-room/mail-999999999',
  '/people?group=constructor',
  '/rules/starters?purpose=constructor',
  '/calendars/1/holidays?country=__proto__',
  '/escalations?only=constructor&page=1e99',
  '/sweeps/runs/1?page=-5',
  '/rules/1/runs?page=NaN',
  '/tasks/export/constructor',
  '/tasks/import/constructor',
  '/tasks?owner=constructor&project=__proto__&section=NaN',
  '/clock',
  '/tasks?text=%00',
  '/tasks?text=%22%27*',
  '/tasks/rows?rows=1e99',
  '/?at=0001-01-01',
  '/digests/1?person=constructor&date=0001-01-01'
];

/** Forms with values of that kind. */
export const ODD_FORMS: readonly (readonly [path: string, fields: Record<string, string>])[] = [
  ['/tasks/1?/remind', { when: 'constructor/1/day', whose: 'mine' }],
  ['/tasks/1?/remind', { when: 'moment', date: '0001-01-01', time: '09:00', whose: 'mine' }],
  ['/tasks/1?/snooze', { notice: '1', date: '0001-01-01', time: '09:00' }],
  ['/tasks/1?/snooze', { notice: '1', date: '', time: '' }],
  ['/tasks/1?/park', { reviewDate: '0001-01-01' }],
  ['/tasks/1?/hush', { until: '0001-01-01' }],
  ['/tasks/1?/hush', { until: '' }],
  ['/tasks/1?/acknowledge', { date: '0001-01-01' }],
  ['/people/1?/leave', { from: '0001-01-01', to: '9999-12-31', anyway: 'on' }],
  ['/people/1?/move', { from: '0001-01-01', zone: 'constructor' }],
  ['/people/1?/channels', { choice: '__proto__/mail' }],
  ['/people/1?/channels', { choice: 'constructor/mail' }],
  ['/escalations?/answer', { answer: 'constructor', promise: 'x' }],
  ['/sweeps?/add', { act: 'constructor' }],
  ['/?/standing', { answer: 'constructor' }],
  ['/?/rush', { rush: 'x', answer: 'constructor' }],
  ['/rules/starters?/take', { starter: 'constructor' }],
  ['/rules/starters?/take', { id: '__proto__' }]
];

/** JSON with values of that kind, or of another form than is asked for. */
export const ODD_BODIES: readonly (readonly [path: string, body: unknown])[] = [
  ['/bell', { id: {} }],
  ['/undo', { changeId: 'constructor' }],
  ['/quick-add', { line: 'x tomorrow 1e9 year 1 0001-01-01', add: false }],
  ['/tasks/bulk', { ids: [1], change: { act: 'constructor' }, preview: true }],
  ['/tasks/bulk', { ids: [1], change: { act: 'due', date: '0001-01-01' }, preview: true }],
  [
    '/tasks/bulk',
    {
      ids: null,
      query: 'sort=constructor&after=xx',
      change: { act: 'shift', n: -3650, unit: 'day' },
      preview: true
    }
  ],
  ['/tasks/1/field', { patch: { dueDate: '0001-01-01' }, base: {} }],
  ['/tasks/1/field', { patch: { dueDate: '9999-12-31', dueTime: '23:59' }, base: {} }],
  ['/tasks/1/field', { patch: { fields: { constructor: 1, __proto__: 2, '99': 'x' } }, base: 'x' }],
  ['/tasks/1/field', null],
  ['/tasks/1/field', []],
  ['/tasks/1/field', { patch: [], base: [] }],
  ['/tasks/1/effect', { dueDate: '0001-01-01' }],
  ['/clock', { to: '0001-01-01' }],
  ['/clock', { date: '0001-01-01', time: '00:00' }],
  ['/clock', null],
  ['/calendars/1/effect', null],
  ['/settings/effect', null],
  ['/rules/1/forecast', null],
  ['/rules/1/try', { name: 1 }],
  ['/rules/hand', null],
  ['/digests/1/preview', null],
  ['/sweeps/1/now', []],
  ['/changes/1/preview', null],
  ['/bell', null],
  ['/undo', null],
  ['/quick-add', null],
  ['/tasks/bulk', null]
];

/** Pages that take a form, and what is none, by its type. */
export const FORM_PAGES: readonly string[] = [
  '/tasks/new',
  '/tasks/1?/save',
  '/tasks/1?/remind',
  '/people/1?/leave',
  '/settings?/save'
];
export const NO_FORMS: readonly (readonly [type: string, body: string])[] = [
  ['application/json', '{"a":1}'],
  ['text/plain', 'a=1'],
  ['multipart/form-data; boundary=x', 'broken'],
  ['multipart/form-data', '--x--'],
  ['application/x-www-form-urlencoded', '%E0%A4%A'],
  ['', '']
];
