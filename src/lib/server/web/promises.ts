import type { RequestEvent } from '@sveltejs/kit';
import { CodedError } from '../../core/errors.ts';
import { promiseWords } from '../task/promises.ts';
import { mayEdit } from '../task/tasks.ts';
import { signedIn } from './web.ts';
import { idOf } from './forms.ts';

interface Answered {
  done: string;
  changeId: number;
}

/**
 * Somebody acknowledges a task on a screen, with the date in the form or without one.
 * @throws CodedError `task-gone`, `task-not-yours`, and those of a promise
 */
export function acknowledgeHere(
  event: Pick<RequestEvent, 'locals'>,
  taskId: number,
  form: FormData
): Answered {
  const { actor, sight, person, zone } = signedIn(event);
  const { app } = event.locals;
  const task = app.stores.tasks.byId(taskId);
  if (!task || !app.stores.tasks.seen([taskId], sight).has(taskId)) throw new CodedError('task-gone');
  if (!mayEdit(task, sight, app)) throw new CodedError('task-not-yours');
  const facts = app.source.facts.people.get(person.id);
  if (!facts) throw new CodedError('person-gone');
  const promised = form.get('seen') === 'only' ? null : String(form.get('promised') ?? '');
  const { changeId, result } = app.promises.acknowledge(actor, task, facts, promised);
  const today = zone.dayOf(app.clock.now());
  return { done: promiseWords(task.name, promised, today, result.asked), changeId };
}

/** Somebody says yes or no to a promise past its deadline. @throws CodedError `promise-answered` or `promise-not-yours` */
export function answerPromiseHere(event: Pick<RequestEvent, 'locals'>, form: FormData): Answered {
  const { actor } = signedIn(event);
  const yes = form.get('answer') === 'yes';
  const { changeId } = event.locals.app.promises.answer(actor, idOf(form, 'promise') ?? 0, yes);
  return { done: yes ? 'Promise approved.' : 'The promise was refused.', changeId };
}
