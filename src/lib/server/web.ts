import { error, json, type RequestEvent } from '@sveltejs/kit';
import { CodedError, errorSentence } from '../core/errors.ts';
import { zoneNamed, type Zone } from '../core/time/zone.ts';
import { zoneOfPerson } from '../core/forecast/compile-facts.ts';
import { may, type Deed } from '../core/access/deeds.ts';
import { deedOf, isEndpoint } from './auth/routes.ts';
import { sightOf } from './auth/sight.ts';
import type { Person } from './store/people.ts';
import type { Sight, Task } from './store/tasks.ts';
import type { Actor } from './service/commit.ts';
import type { Undoer } from './service/undo.ts';
import type { Viewer } from './service/viewer.ts';

/** Whoever is signed in; the frame lets nobody else come this far. */
export function signedIn({ locals }: Pick<RequestEvent, 'locals'>): {
  person: Person;
  zone: Zone;
  viewer: Viewer;
  actor: Actor;
  sight: Sight;
  may: (deed: Deed) => boolean;
} {
  const { person, app } = locals;
  if (!person) throw new TypeError('this route is not public');
  const zone = person.moves.length === 0 ? zoneNamed(person.zone) : zoneOfPerson(person);
  return {
    person,
    zone,
    viewer: { zone, personId: person.id },
    actor: { personId: person.id, source: 'person' },
    sight: sightOf(person, app.stores),
    may: (deed) => may(person.role, deed)
  };
}

/** The same, as one who takes something back. */
export function undoerOf(event: Pick<RequestEvent, 'locals'>): Undoer {
  const { person, sight, may } = signedIn(event);
  return { personId: person.id, sight, may };
}

/** A task that the person sees. One that they do not see is not there. @throws HttpError 404 */
export function seenTask(event: Pick<RequestEvent, 'locals'>, id: number): Task {
  const { sight } = signedIn(event);
  const { tasks } = event.locals.app.stores;
  const task = tasks.byId(id);
  return task && tasks.seen([id], sight).has(id) ? task : error(404, { message: errorSentence('task-gone') });
}

/**
 * Another task that is named in what was sent: one that the person does not see is not there.
 * @throws CodedError `task-gone`
 */
export function checkNamedTask(
  event: Pick<RequestEvent, 'locals'>,
  taskId: number | null | undefined,
  field: string
): void {
  if (taskId == null) return;
  const { sight } = signedIn(event);
  if (!event.locals.app.stores.tasks.seen([taskId], sight).has(taskId))
    throw new CodedError('task-gone', {}, field);
}

/** The name of the act that a request asks for: the method for an endpoint, a form action's name; null for reading. */
export function actOf(routeId: string, method: string, url: URL): string | null {
  if (method === 'GET' || method === 'HEAD' || method === 'OPTIONS') return null;
  if (isEndpoint(routeId)) return method;
  const named = [...url.searchParams.keys()].find((key) => key.startsWith('/'));
  return named ? named.slice(1) : 'default';
}

/**
 * Lets a request pass when the table of access does.
 * @returns false when it needs a session that is not there
 * @throws HttpError 403 when the person's role does not
 */
export function admit(routeId: string, act: string | null, person: Person | null): boolean {
  const deed = deedOf(routeId, act);
  if (deed === 'anybody') return true;
  if (!person) return false;
  if (deed !== null && may(person.role, deed)) return true;
  return error(403, {
    message: 'Your role does not open this. An administrator can change it.',
    code: 'no-access'
  });
}

/** What a request carries as JSON. @throws CodedError `bad-json` */
export async function jsonOf(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch (failure) {
    throw new CodedError('bad-json', { detail: (failure as Error).message });
  }
}

/** Runs `work` and answers JSON; a coded error becomes its sentence. */
export async function answerJson(work: () => unknown): Promise<Response> {
  try {
    return json(await work());
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return json({ message: failure.message, code: failure.code }, { status: 400 });
  }
}
