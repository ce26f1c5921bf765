import { CodedError } from '$lib/core/errors.ts';
import {
  askSchema,
  backSchema,
  deskParkSchema,
  finishSchema,
  habitSchema,
  idSchema,
  keepSchema,
  pinSchema,
  shelfSchema,
  orderSchema,
  placeSchema,
  wordSchema
} from '$lib/server/desk/schema.ts';
import { finish } from '$lib/server/desk/finishing.ts';
import { askNow } from '$lib/server/desk/my-people.ts';
import { sayWord, type Said } from '$lib/server/desk/word.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, checkEditable, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestEvent, RequestHandler } from './$types';

const things = ({ locals }: RequestEvent) => locals.app.deskThings;
const actor = (event: RequestEvent) => signedIn(event).actor;

type Act = (event: RequestEvent, sent: unknown) => Said;

/** What somebody does on their own Desk, by name. Each says what was done, with the change that can be undone. */
const ACTS: Readonly<Record<string, Act>> = {
  place: (event, sent) => {
    const { changeId, result } = event.locals.app.placing.place(
      signedIn(event).actor,
      readOrRefuse(placeSchema, sent)
    );
    return { message: `${result}.`, changeId };
  },
  order: (event, sent) => {
    const { taskIds } = readOrRefuse(orderSchema, sent);
    const { changeId } = event.locals.app.placing.order(signedIn(event).actor, taskIds);
    return { message: 'Your order was saved.', changeId };
  },
  back: (event, sent) => {
    const { taskId, word } = readOrRefuse(backSchema, sent);
    const { changeId, result } = event.locals.app.placing.giveBack(signedIn(event).actor, taskId, word);
    const now = result.to === null ? 'The task has no owner now.' : `The task is ${result.to}’s now.`;
    return { message: `Given back. ${now}`, changeId };
  },
  park: (event, sent) => {
    const { taskId, reviewDate } = readOrRefuse(deskParkSchema, sent);
    const { changeId } = event.locals.app.placing.park(signedIn(event).actor, taskId, reviewDate);
    return { message: 'Parked. It stands under Parked until its next look.', changeId };
  },
  finish: (event, sent) => {
    const input = readOrRefuse(finishSchema, sent);
    checkEditable(event, input.taskId);
    return finish(event.locals.app, signedIn(event).actor, input);
  },
  ask: (event, sent) => {
    const { taskId } = readOrRefuse(askSchema, sent);
    return askNow(event.locals.app, signedIn(event), taskId);
  },
  keep: (event, sent) => {
    const { changeId } = things(event).keep(actor(event), readOrRefuse(keepSchema, sent).text);
    return { message: 'Kept. It is on your Desk.', changeId };
  },
  discard: (event, sent) => {
    const { changeId } = things(event).discard(actor(event), readOrRefuse(idSchema, sent).id);
    return { message: 'The line was discarded.', changeId };
  },
  'make task': (event, sent) => {
    const { changeId } = things(event).makeTask(actor(event), readOrRefuse(idSchema, sent).id);
    return { message: 'The line is a task now.', changeId };
  },
  shelve: (event, sent) => {
    const { changeId } = things(event).shelve(actor(event), readOrRefuse(shelfSchema, sent));
    return { message: 'The shelf was saved.', changeId };
  },
  unshelve: (event, sent) => {
    const { changeId } = things(event).unshelve(actor(event), readOrRefuse(idSchema, sent).id);
    return { message: 'Taken from the shelf.', changeId };
  },
  pin: (event, sent) => {
    const { list, group } = readOrRefuse(pinSchema, sent);
    const { changeId } = things(event).pin(actor(event), list, group);
    return { message: 'The list is counted on the Desk.', changeId };
  },
  unpin: (event, sent) => {
    const { changeId } = things(event).unpin(actor(event), readOrRefuse(idSchema, sent).id);
    return { message: 'The count was removed. The list remains.', changeId };
  },
  habit: (event, sent) => {
    const { changeId } = things(event).setHabit(actor(event), readOrRefuse(habitSchema, sent));
    return { message: 'Saved. It applies to what you type from now on.', changeId };
  },
  word: (event, sent) => sayWord(event.locals.app, signedIn(event), readOrRefuse(wordSchema, sent))
};

export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { act, ...sent } = await jsonParts(event.request);
    const does = typeof act === 'string' && Object.hasOwn(ACTS, act) ? ACTS[act] : undefined;
    if (!does) throw new CodedError('bad-field', { detail: 'There is no such act' });
    return does(event, sent);
  });
