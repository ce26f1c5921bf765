import type { RequestHandler } from './$types';

/** Behind by more than this, the engine does not keep up. */
const BEHIND_MS = 5 * 60_000;

/** Whether the engine rings and keeps up, and messages leave; 503 with why not. */
export const GET: RequestHandler = ({ locals }) => {
  const { engine, clock, outbox } = locals.app;
  const standing = outbox.standing();
  const next = engine.nextInstant();
  const why = !engine.started
    ? 'rules are paused'
    : engine.troubled
      ? 'nothing can be written: the disk may be full, or something else holds the database'
      : next !== null && clock.running && clock.now() - next > BEHIND_MS
        ? 'the engine is more than five minutes behind'
        : standing?.why === 'cannot write'
          ? 'how messages end cannot be written: the disk may be full, or something else holds the database'
          : standing
            ? `messages wait, and for minutes none has left by ${standing.channel}`
            : null;
  return new Response(`${why ?? 'ready'}\n`, {
    status: why ? 503 : 200,
    headers: { 'cache-control': 'no-store' }
  });
};
