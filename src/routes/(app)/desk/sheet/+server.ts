import { bellsInShort, bellsOfTask } from '$lib/server/task/task-bells.ts';
import { roundView } from '$lib/server/desk/round-views.ts';
import { answerJson, seenTask, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** One task of a round, `task`, with what can be done with it and the notices that come for it. */
export const GET: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.url.searchParams.get('task')) || 0);
  return answerJson(() => {
    const { person, sight, viewer } = signedIn(event);
    const { app } = event.locals;
    const kind = event.url.searchParams.get('round') === 'evening' ? 'evening' : 'placing';
    const bells = bellsInShort(bellsOfTask(app, task.id, viewer), app.clock.now());
    return {
      ...roundView(app, person.id, task.id, sight, kind),
      bells: bells.coming.map(({ key, kind: mark, readerName, time, ruleName, readerId }) => ({
        key,
        kind: mark,
        to: readerId === person.id ? null : readerName,
        at: time.here ?? time.there,
        atMs: time.atMs,
        rule: ruleName
      }))
    };
  });
};
