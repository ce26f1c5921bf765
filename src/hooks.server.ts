import { error, redirect, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { may } from '$lib/core/access/deeds.ts';
import { SESSION_COOKIE } from '$lib/server/auth/auth.ts';
import { asForm, mostBytesOf, withinSize } from '$lib/server/web/body-sizes.ts';
import { createContainer, type Container } from '$lib/server/container.ts';
import { checkDataFolder, whyNotOpened } from '$lib/server/db/data-folder.ts';
import { untilWritable } from '$lib/server/db/until-writable.ts';
import { isMachineFault } from '$lib/server/db/machine-fault.ts';
import { isEndpoint } from '$lib/server/auth/routes.ts';
import { claimWorkspace } from '$lib/server/db/claim.ts';
import { containerOptions, type ContainerOptions } from '$lib/server/options.ts';
import { isFromElsewhere } from '$lib/server/web/origins.ts';
import { actOf, admit, canNameRows } from '$lib/server/web/web.ts';

/**
 * Whoever posts here is no browser, and nobody is signed in by it: a mail program by a signed link (RFC 8058 §3.1), a gateway by a key in the
 * address.
 */
const FROM_PROGRAMS: ReadonlySet<string | null> = new Set(['/mail/[token]', '/receipts/text/[key]']);

const NOT_WRITABLE =
  'The server cannot save: its disk is full or the database is in use. Your change was not saved. Try again later.';

/** A thread of ours writes for longer than anybody waits. */
const LENT = 'A change of very many tasks is being saved. Your change was not saved. Try again in a moment.';

let app: Container;

export const init: ServerInit = async () => {
  const options = containerOptions(process.env);
  try {
    await open(options);
  } catch (failure) {
    const why = whyNotOpened(failure, options.dataDir);
    if (why === null) throw failure;
    process.stderr.write(`Early Bell cannot start. ${why}\n`);
    process.exit(1);
  }
};

async function open(options: ContainerOptions): Promise<void> {
  checkDataFolder(options.dataDir);
  const claim = await claimWorkspace(options.dataDir, () =>
    process.stdout.write(
      `Another Early Bell has the workspace in ${options.dataDir} open. This one waits until that has ended.\n`
    )
  );
  app = createContainer(options);
  await app.start();
  if (app.setup.isFresh()) {
    const link = `${app.options.origin}/begin/${app.auth.makeFirstLink()}`;
    process.stdout.write(`Open this link once, within a day, to set up the workspace: ${link}\n`);
  }
  // Streams of open pages never end by themselves, and the web server waits for what is open.
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => app.live.close());
  // The web server closes its connections first; then the engine ends its slice and the database is closed.
  process.on('sveltekit:shutdown', () => {
    app
      .stop()
      .catch((error: unknown) => app.log.error({ err: error }, 'could not stop cleanly'))
      .finally(() => claim.release());
  });
}

export const handle: Handle = (request) => app.requests.answering(() => answer(request));

const answer: Handle = async ({ event, resolve }) => {
  event.locals.app = app;
  event.locals.person = app.auth.personOf(event.cookies.get(SESSION_COOKIE));
  const { pathname, search } = event.url;
  const { person } = event.locals;
  const routeId = event.route.id;
  if (!FROM_PROGRAMS.has(routeId) && isFromElsewhere(event.request, event.url.origin))
    return new Response('A form of another site does nothing here.', { status: 403 });
  // A person whose first screen is not the Bell tower comes in at their Desk.
  if (
    routeId === '/(app)' &&
    event.request.method === 'GET' &&
    person &&
    !may(person.role, 'watch the whole team')
  )
    redirect(303, '/desk');
  const isAsset = pathname.startsWith('/_app/');
  const { method } = event.request;
  const act = actOf(routeId ?? '', method, event.url);
  if (!isAsset && (routeId !== null || !person)) {
    if (!admit(routeId ?? '', act, person)) {
      const back = method === 'GET' && pathname !== '/' ? `?to=${encodeURIComponent(pathname + search)}` : '';
      redirect(303, `/sign-in${back}`);
    }
  }
  if (!canNameRows(event.params)) error(404, 'This page does not exist.');
  try {
    const sent = await withinSize(event.request, mostBytesOf(routeId, person !== null));
    event.request = isEndpoint(routeId ?? '') ? sent : await asForm(sent);
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    const { message, code } = failure;
    return refused(event.request, code === 'body-too-large' ? 413 : 415, message, code);
  }
  // Once all of it has come: whoever writes then begins at once.
  if (act !== null && !(await untilWritable(app.work))) {
    const why = app.work.isLent ? LENT : NOT_WRITABLE;
    return refused(event.request, 503, why, 'not-writable');
  }
  const resolved = await resolve(event);
  // What a page said to a press is its own answer; what it is read as is here.
  const { status } = event.locals;
  const isRead = event.request.method === 'GET' && !event.isDataRequest;
  return status && isRead ? new Response(resolved.body, { status, headers: resolved.headers }) : resolved;
};

/** In the form in which the sender reads answers: the form of a page that is open is told inside the answer to its act, and says it where it stands. */
function refused({ headers }: Request, status: number, message: string, code: string): Response {
  const isForm = headers.get('x-sveltekit-action') === 'true';
  const readsJson = isForm || /json/.test(headers.get('accept') ?? headers.get('content-type') ?? '');
  const body = isForm ? { type: 'error', status, error: { message } } : { message, code };
  return new Response(readsJson ? JSON.stringify(body) : message, {
    status,
    headers: { 'content-type': readsJson ? 'application/json' : 'text/plain' }
  });
}

export const handleError: HandleServerError = ({ error, status, message, event }) => {
  if (status === 404) return { message: 'This page does not exist.' };
  // What was lost in a thread is recorded there; an application that ends loses nothing.
  if (error instanceof CodedError && error.code === 'thread-lost') return { message: error.message };
  // Some addresses let whoever knows them in: which place it was is said, not which address.
  app.log.error({ err: error, route: event.route.id }, message);
  if (isMachineFault(error)) return { message: NOT_WRITABLE };
  return { message: 'The server failed. The fault was recorded. Your change was not saved.' };
};
