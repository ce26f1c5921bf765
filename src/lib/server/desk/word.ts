import { CodedError } from '../../core/errors.ts';
import { UNANSWERED } from '../../core/sweep/model.ts';
import type { HandRings } from '../rule/hand-rings.ts';
import type { SweepQuestions } from '../sweep/sweep-questions.ts';
import type { Promises } from '../task/promises.ts';
import { minutesOf } from '../task/minutes.ts';
import type { TaskActs } from '../task/task-acts.ts';
import { promiseWords } from '../task/promises.ts';
import { mayEdit } from '../task/tasks.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import type { DeskServices } from './desk-of.ts';
import type { WordInput } from './schema.ts';

/** What answers need. */
export type WordServices = DeskServices & {
  promises: Promises;
  sweepQuestions: SweepQuestions;
  handRings: HandRings;
  taskActs: TaskActs;
};

/** What came of an answer: in words, and the change, where it can be undone. */
export interface Said {
  message: string;
  changeId?: number;
}

/** Somebody answers what waits for their word on their Desk. @throws CodedError what keeps the answer from being taken */
export function sayWord(app: WordServices, who: SignedIn, { kind, id, answer }: WordInput): Said {
  const { actor, may } = who;
  const coordinates = may('watch the whole team');
  switch (kind) {
    case 'question': {
      if (answer !== 'yes' && answer !== 'no' && answer !== 'change')
        throw new CodedError('bad-field', { detail: 'Answer yes, no or change' });
      app.handRings.answer(actor, coordinates, id, answer);
      return { message: 'Answer saved.' };
    }
    case 'still needed': {
      const one = UNANSWERED.find((known) => known === answer);
      if (!one) throw new CodedError('sweep-answered');
      const { changeId, result } = app.sweepQuestions.answer(actor, coordinates, id, one);
      return { message: result, changeId };
    }
    case 'approval': {
      const { changeId } = app.promises.answer(actor, id, answer === 'yes');
      return { message: answer === 'yes' ? 'Promise approved.' : 'The promise was refused.', changeId };
    }
    case 'acknowledge':
      return acknowledge(app, who, id, answer);
    case 'time': {
      checkMine(app, who, id);
      const minutes = minutesOf(answer);
      if (!Number.isInteger(minutes) || minutes < 1)
        throw new CodedError('bad-field', { detail: 'Write the time like 1:30 or 90 minutes' }, 'answer');
      const { changeId } = app.taskActs.logTime(actor, id, { minutes, note: '' });
      return { message: 'Time logged.', changeId };
    }
  }
}

function acknowledge(app: WordServices, who: SignedIn, id: number, promised: string): Said {
  const task = checkMine(app, who, id);
  const person = app.source.facts.people.get(who.person.id);
  if (!person) throw new CodedError('person-gone');
  const day = promised === '' ? null : promised;
  const { changeId, result } = app.promises.acknowledge(who.actor, task, person, day);
  const today = who.zone.dayOf(app.clock.now());
  return { message: promiseWords(task.name, day, today, result.asked), changeId };
}

function checkMine(app: WordServices, { sight }: SignedIn, id: number) {
  const task = app.stores.tasks.byId(id);
  if (!task || !app.stores.tasks.seen([id], sight).has(id)) throw new CodedError('task-gone');
  if (!mayEdit(task, sight, app)) throw new CodedError('task-not-yours');
  return task;
}
