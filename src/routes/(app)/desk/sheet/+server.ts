import { bellsOfTask } from '$lib/server/task/task-bells.ts';
import { roundView } from '$lib/server/desk/round-views.ts';
import { answerJson, seenTask, signedIn } from '$lib/server/web/web.ts';
import { inShort } from '$lib/view/bell-series.ts';
import type { RoundSheet } from '$lib/view/desk.ts';
import type { RequestHandler } from './$types';

/** One task of a round, `task`, with what can be done with it and the notices that come for it. */
export const GET: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.url.searchParams.get('task')) || 0);
  return answerJson(() => {
    const { person, sight, viewer } = signedIn(event);
    const { app } = event.locals;
    const kind = event.url.searchParams.get('round') === 'evening' ? 'evening' : 'placing';
    const coming = bellsOfTask(app, task.id, viewer).coming.filter(({ unrung }) => unrung === null);
    const sheet: RoundSheet = {
      ...roundView(app, person.id, task.id, sight, kind),
      notices: coming.length,
      bells: inShort(coming).listed.map(({ key, kind: mark, readerName, time, ruleName, readerId }) => ({
        ...{ key, kind: mark, rule: ruleName, at: time.here ?? time.there },
        to: readerId === person.id ? null : readerName
      }))
    };
    return sheet;
  });
};
