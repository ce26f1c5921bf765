import type { Deed } from '../../core/access/deeds.ts';

/** What reading a route and each of its acts asks for; `anybody` needs no session. */
interface RouteAccess {
  /** GET; absent where the route answers none. */
  read?: Deed | 'anybody';
  /** Form actions by name, `POST` for an endpoint. */
  acts?: Record<string, Deed | 'anybody'>;
}

/** Every route. One that is not here answers nobody, and a test names it. */
export const ROUTES: Readonly<Record<string, RouteAccess>> = {
  '/act/[token]': { read: 'anybody', acts: { do: 'anybody', undo: 'anybody' } },
  '/t/[token]': { read: 'anybody' },
  '/mail/[token]': { read: 'anybody', acts: { default: 'anybody' } },
  '/receipts/text/[key]': { acts: { POST: 'anybody' } },
  '/healthz': { read: 'anybody' },
  '/readyz': { read: 'anybody' },
  '/metrics': { read: 'anybody' },
  '/sign-in': { read: 'anybody', acts: { default: 'anybody' } },
  '/sign-in/demo': { acts: { POST: 'anybody' } },
  '/sign-in/forgotten': { read: 'anybody', acts: { default: 'anybody' } },
  '/password/[token]': { read: 'anybody', acts: { default: 'anybody' } },
  '/begin/[token]': { read: 'anybody', acts: { default: 'anybody' } },
  '/sign-out': { acts: { POST: 'anybody' } },
  '/(app)': {
    read: 'watch the whole team',
    acts: {
      rush: 'make rules',
      uncount: 'watch the whole team',
      works: 'look after people',
      standing: 'make rules',
      week: 'make rules',
      begin: 'make rules',
      sample: 'look after projects',
      unsample: 'look after projects'
    }
  },
  '/(app)/bell/next': { read: 'work with tasks' },
  '/(app)/bell': { read: 'work with tasks', acts: { POST: 'work with tasks' } },
  '/(app)/live': { read: 'work with tasks' },
  '/(app)/escalations': {
    read: 'work with tasks',
    acts: { acknowledge: 'work with tasks', answer: 'work with tasks' }
  },
  '/(app)/desk': { read: 'work with tasks' },
  '/(app)/desk/acts': { acts: { POST: 'work with tasks' } },
  '/(app)/desk/effect': { acts: { POST: 'work with tasks' } },
  '/(app)/desk/rows': { read: 'work with tasks' },
  '/(app)/desk/sheet': { read: 'work with tasks' },
  '/(app)/desk/round': { read: 'work with tasks' },
  '/(app)/people/[id]/desk': { read: 'work with tasks' },
  '/(app)/people/[id]/desk/rows': { read: 'work with tasks' },
  '/(app)/days': { acts: { POST: 'work with tasks' } },
  '/(app)/go': { read: 'work with tasks' },
  '/(app)/sending': { acts: { POST: 'make rules' } },
  '/(app)/sending/keep': { acts: { POST: 'change settings' } },
  '/(app)/quick-add': { acts: { POST: 'work with tasks' } },
  '/(app)/tasks/(list)': {
    read: 'work with tasks',
    acts: { keep: 'work with tasks', drop: 'work with tasks' }
  },
  '/(app)/tasks/rows': { read: 'work with tasks' },
  '/(app)/tasks/export/[file]': { read: 'work with tasks' },
  '/(app)/tasks/bulk': { acts: { POST: 'work with tasks' } },
  '/(app)/tasks/bulk/ready': { acts: { POST: 'work with tasks' } },
  '/(app)/tasks/new': { read: 'work with tasks', acts: { default: 'work with tasks' } },
  '/(app)/tasks/(list)/[id]': {
    read: 'work with tasks',
    acts: {
      save: 'work with tasks',
      comment: 'work with tasks',
      dropComment: 'work with tasks',
      logTime: 'work with tasks',
      dropTime: 'work with tasks',
      remind: 'work with tasks',
      dropReminder: 'work with tasks',
      connect: 'work with tasks',
      disconnect: 'work with tasks',
      contacts: 'look after people',
      subtask: 'work with tasks',
      park: 'work with tasks',
      archive: 'work with tasks',
      bin: 'work with tasks',
      restore: 'work with tasks',
      hush: 'work with tasks',
      unhush: 'work with tasks',
      acknowledge: 'work with tasks',
      answerPromise: 'work with tasks',
      reminded: 'work with tasks',
      snooze: 'work with tasks',
      ring: 'work with tasks',
      answer: 'work with tasks'
    }
  },
  '/(app)/tasks/(list)/[id]/bells': { read: 'work with tasks' },
  '/(app)/tasks/(list)/[id]/effect': { acts: { POST: 'work with tasks' } },
  '/(app)/tasks/(list)/[id]/snooze': { acts: { POST: 'work with tasks' } },
  '/(app)/tasks/(list)/[id]/field': { acts: { POST: 'work with tasks' } },
  '/(app)/projects': { read: 'work with tasks', acts: { add: 'look after projects' } },
  '/(app)/projects/[id]': {
    read: 'work with tasks',
    acts: {
      save: 'look after projects',
      hush: 'look after projects',
      unhush: 'look after projects',
      member: 'look after projects',
      dropMember: 'look after projects',
      section: 'look after projects',
      moveSection: 'look after projects',
      dropSection: 'look after projects'
    }
  },
  '/(app)/projects/[id]/effect': { acts: { POST: 'look after projects' } },
  '/(app)/tasks/import': { read: 'bring tasks in' },
  '/(app)/tasks/import/upload': { acts: { PUT: 'bring tasks in' } },
  '/(app)/tasks/import/[token]': {
    read: 'bring tasks in',
    acts: {
      choose: 'bring tasks in',
      nearest: 'bring tasks in',
      mend: 'bring tasks in',
      import: 'bring tasks in'
    }
  },
  '/(app)/tasks/import/[token]/effect': { acts: { POST: 'bring tasks in' } },
  '/(app)/tasks/import/[token]/progress': { read: 'bring tasks in' },
  '/(app)/rules': { read: 'make rules', acts: { add: 'make rules', move: 'make rules' } },
  '/(app)/rules/starters': { read: 'make rules', acts: { take: 'make rules' } },
  '/(app)/rules/[id]': {
    read: 'make rules',
    acts: {
      save: 'make rules',
      turnOn: 'make rules',
      turnOff: 'make rules',
      discard: 'make rules',
      hush: 'make rules',
      unhush: 'make rules'
    }
  },
  '/(app)/rules/hand': { acts: { POST: 'make rules' } },
  '/(app)/rules/shared': {
    read: 'make rules',
    acts: {
      readers: 'make rules',
      dropReaders: 'make rules',
      template: 'make rules',
      dropTemplate: 'make rules'
    }
  },
  '/(app)/rules/[id]/runs': { read: 'make rules' },
  '/(app)/rules/[id]/runs/[run]': { read: 'make rules' },
  '/(app)/rules/[id]/forecast': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/basis': { read: 'make rules' },
  '/(app)/rules/[id]/nameless': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/off': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/try': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/try/send': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/words': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/hindsight': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/beside': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/check': { acts: { POST: 'make rules' } },
  '/(app)/rules/[id]/versions': { read: 'make rules', acts: { restore: 'make rules' } },
  '/(app)/rules/[id]/copy': { read: 'make rules', acts: { default: 'make rules' } },
  '/(app)/told': {
    read: 'keep their own page',
    acts: {
      quiet: 'keep their own page',
      channels: 'keep their own page',
      leave: 'keep their own page',
      dropLeave: 'keep their own page',
      remind: 'keep their own page',
      dropRemind: 'keep their own page',
      hush: 'keep their own page',
      unhush: 'keep their own page'
    }
  },
  '/(app)/told/effect': { acts: { POST: 'keep their own page' } },
  '/(app)/people': { read: 'see people' },
  '/(app)/people/new': { read: 'look after people', acts: { default: 'look after people' } },
  '/(app)/people/[id]': {
    read: 'see people',
    acts: {
      basics: 'keep their own page',
      hush: 'look after people',
      unhush: 'look after people',
      move: 'keep their own page',
      dropMove: 'keep their own page',
      leave: 'keep their own page',
      dropLeave: 'keep their own page',
      quiet: 'keep their own page',
      channels: 'keep their own page',
      signOutEverywhere: 'keep their own page',
      invite: 'give access',
      deactivate: 'give access',
      activate: 'give access',
      erase: 'give access'
    }
  },
  '/(app)/people/[id]/hand-over': { read: 'give access', acts: { default: 'give access' } },
  '/(app)/people/[id]/hand-over/effect': { acts: { POST: 'give access' } },
  '/(app)/people/leave': {
    read: 'look after people',
    acts: { look: 'look after people', confirm: 'look after people' }
  },
  '/(app)/people/sheet': {
    read: 'look after people',
    acts: { look: 'look after people', confirm: 'look after people' }
  },
  '/(app)/people/sheet/people.csv': { read: 'look after people' },
  '/(app)/people/contacts': {
    read: 'look after people',
    acts: { save: 'look after people', remove: 'look after people' }
  },
  '/(app)/calendars': { read: 'see people', acts: { add: 'keep calendars' } },
  '/(app)/calendars/[id]': {
    read: 'see people',
    acts: { save: 'keep calendars', remove: 'keep calendars' }
  },
  '/(app)/calendars/[id]/effect': { acts: { POST: 'keep calendars' } },
  '/(app)/calendars/[id]/holidays': { acts: { POST: 'keep calendars' } },
  '/(app)/calendars/[id]/calendar.ics': { read: 'see people' },
  '/(app)/settings': {
    read: 'change settings',
    acts: {
      save: 'change settings',
      status: 'change settings',
      dropStatus: 'change settings',
      field: 'change settings',
      dropField: 'change settings',
      clearSample: 'change settings'
    }
  },
  '/(app)/settings/channels': {
    read: 'change settings',
    acts: { save: 'change settings', test: 'change settings' }
  },
  '/(app)/settings/effect': { acts: { POST: 'change settings' } },
  '/(app)/digests': { read: 'make rules', acts: { add: 'make rules' } },
  '/(app)/digests/[id]': {
    read: 'make rules',
    acts: { save: 'make rules', turn: 'make rules', drop: 'make rules' }
  },
  '/(app)/digests/[id]/preview': { acts: { POST: 'make rules' } },
  '/(app)/sweeps': { read: 'make rules', acts: { add: 'make rules' } },
  '/(app)/sweeps/[id]': {
    read: 'make rules',
    acts: { save: 'make rules', turn: 'make rules', drop: 'make rules', look: 'make rules' }
  },
  '/(app)/sweeps/[id]/now': { acts: { POST: 'make rules' } },
  '/(app)/sweeps/runs/[run]': {
    read: 'make rules',
    acts: {
      run: 'make rules',
      stop: 'make rules',
      halt: 'make rules',
      resume: 'make rules',
      undo: 'make rules'
    }
  },
  '/(app)/sweeps/runs/[run]/effect': { acts: { POST: 'make rules' } },
  '/(app)/sweeps/runs/[run]/tick': { acts: { POST: 'make rules' } },
  '/(app)/sweeps/asked': { read: 'work with tasks', acts: { answer: 'work with tasks' } },
  '/(app)/outbox': { read: 'watch the whole team' },
  '/(app)/outbox/[file]': { read: 'watch the whole team' },
  '/(app)/journal': { read: 'watch the whole team' },
  '/(app)/journal/[file]': { read: 'watch the whole team' },
  '/(app)/post-room': {
    read: 'read the Post room',
    acts: { fault: 'read the Post room' }
  },
  '/(app)/post-room/[key]': { read: 'read the Post room' },
  '/(app)/clock': { acts: { POST: 'move the demo clock' } },
  '/(app)/changes/[id]': {
    read: 'undo what they did',
    acts: { undo: 'undo what they did', tell: 'undo what they did' }
  },
  '/(app)/changes/[id]/preview': { acts: { POST: 'undo what they did' } },
  '/(app)/undo': { acts: { POST: 'undo what they did' } }
};

/** Whether a route answers requests itself, and is no page with form actions. */
export function isEndpoint(routeId: string): boolean {
  return Object.keys(ROUTES[routeId]?.acts ?? {}).some((act) => act === act.toUpperCase());
}

/**
 * What a request asks for.
 * @param act the form action's name, `POST` for an endpoint; null for a GET
 * @returns null when the table does not know it: then nobody may
 */
export function deedOf(routeId: string, act: string | null): Deed | 'anybody' | null {
  const route = ROUTES[routeId];
  if (!route) return null;
  if (act === null) return route.read ?? null;
  return route.acts?.[act] ?? null;
}
