import { error, json, type RequestEvent } from '@sveltejs/kit';
import { CodedError, errorSentence } from '../../core/errors.ts';
import { may } from '../../core/access/deeds.ts';
import { deedOf, isEndpoint } from '../auth/routes.ts';
import { signedInAs, undoerAs, type SignedIn } from '../workspace/signed-in.ts';
import type { Person } from '../store/people.ts';
import type { Task } from '../store/tasks.ts';
import type { Asked } from '../tryout/asked.ts';
import { mayEdit } from '../task/tasks.ts';
import type { Undoer } from '../record/undo.ts';

/** Whoever is signed in; the frame lets nobody else come this far. */
export function signedIn({ locals }: Pick<RequestEvent, 'locals'>): SignedIn {
  const { person, app } = locals;
  if (!person) throw new TypeError('this route is not public');
  return signedInAs(person, app.stores);
}

/** The same, as one who takes something back. */
export function undoerOf(event: Pick<RequestEvent, 'locals'>): Undoer {
  return undoerAs(signedIn(event));
}

/** A task that the person sees. One that they do not see is not there. @throws HttpError 404 */
export function seenTask(event: Pick<RequestEvent, 'locals'>, id: number): Task {
  const { sight } = signedIn(event);
  const { tasks } = event.locals.app.stores;
  const task = tasks.byId(id);
  return task && tasks.seen([id], sight).has(id) ? task : error(404, { message: errorSentence('task-gone') });
}

/** The same for whoever wants to change it. @throws CodedError `task-gone` or `task-not-yours` */
export function checkEditable(event: Pick<RequestEvent, 'locals'>, id: number): void {
  const { sight } = signedIn(event);
  const { stores } = event.locals.app;
  const task = stores.tasks.byId(id);
  if (!task || !stores.tasks.seen([id], sight).has(id)) throw new CodedError('task-gone');
  if (!mayEdit(task, sight, { stores })) throw new CodedError('task-not-yours');
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

/**
 * The task under which another one is hung: that changes it, so it asks for the right to.
 * @throws CodedError `task-gone` or `parent-not-yours`
 */
export function checkParent(event: Pick<RequestEvent, 'locals'>, parentId: number | null | undefined): void {
  checkNamedTask(event, parentId, 'parentId');
  const { stores } = event.locals.app;
  const parent = parentId == null ? null : stores.tasks.byId(parentId);
  if (parent && !mayEdit(parent, signedIn(event).sight, { stores }))
    throw new CodedError('parent-not-yours', {}, 'parentId');
}

/** Parts of addresses that are numbers of rows. */
const ROW_PARTS = ['id', 'run'] as const;

/** Whether an address can name rows: what is no whole number from 1 on names none, and no route has to ask again. */
export function canNameRows(parts: Readonly<Record<string, string | undefined>>): boolean {
  return ROW_PARTS.every((part) => parts[part] === undefined || /^[1-9]\d{0,14}$/.test(parts[part]));
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

/** The same, where it carries named parts; nothing named where it is of another form. @throws CodedError `bad-json` */
export async function jsonParts(request: Request): Promise<Record<string, unknown>> {
  const body = await jsonOf(request);
  return partsOf(body);
}

/** What is named in a part of it. */
export function partsOf(value: unknown): Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : {};
}

/** Runs `work` and answers JSON, or as it has answered itself; a coded error becomes its sentence. */
export async function answerJson(work: () => unknown): Promise<Response> {
  try {
    const answer = await work();
    return answer instanceof Response ? answer : json(answer);
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return json({ message: failure.message, code: failure.code }, { status: 400 });
  }
}

/**
 * What an act would do, looked at before it is done, by whoever is signed in. Where that takes long its answer comes line by line: how far it has
 * come as `{"part":0.25}`, and at last `{"answer":…}`, or `{"message":…,"code":…}` for what keeps it from being done.
 */
export async function answerLook(event: RequestEvent, asked: Asked): Promise<Response> {
  const { person } = signedIn(event);
  const { tryOuts } = event.locals.app;
  const { signal } = event.request;
  let hears: ((part: number) => void) | null = null;
  let begun: () => void = () => {};
  const begins = new Promise<void>((resolve) => (begun = resolve));
  const onPart = (part: number) => {
    begun();
    hears?.(part);
  };
  const answer = tryOuts.look(person.id, asked, onPart, signal);
  await Promise.race([begins, answer.catch(() => {})]);
  // What is known already needs no lines.
  if (await isSettled(answer)) return answerJson(() => answer);
  const lines = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async start(stream) {
      const say = (line: unknown) => stream.enqueue(lines.encode(`${JSON.stringify(line)}\n`));
      hears = (part) => say({ part });
      try {
        say({ answer: await answer });
      } catch (failure) {
        // Nobody listens any more.
        if (signal.aborted) return;
        if (!(failure instanceof CodedError)) return stream.error(failure);
        say({ message: failure.message, code: failure.code });
      }
      stream.close();
    }
  });
  return new Response(body, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' }
  });
}

/** Whether a promise has come to its end by now. */
async function isSettled(promise: Promise<unknown>): Promise<boolean> {
  const open = Symbol('open');
  return (await Promise.race([promise.catch(() => null), Promise.resolve(open)])) !== open;
}
