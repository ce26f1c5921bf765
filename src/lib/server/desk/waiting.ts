import { canBeOverdue } from '../../core/forecast/facts/facts.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import { parseDay } from '../../core/time/day.ts';
import { isOpen } from '../../core/task/model.ts';
import type { PromiseRecord } from '../store/promises.ts';
import type { WaitingView } from '../../view/desk.ts';
import type { Escalations } from '../ladder/escalations.ts';
import type { Promises } from '../task/promises.ts';
import type { SweepQuestions } from '../sweep/sweep-questions.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import { deskOf, type DeskServices } from './desk-of.ts';

/** What is asked for these views. */
export type WaitingServices = DeskServices & { promises: Promises; sweepQuestions: SweepQuestions };

const THEN = { park: 'parked', close: 'closed', keep: 'kept' } as const;
const NO_ANSWER = { yes: 'it counts as a yes', no: 'it counts as a no' } as const;

/** What waits for somebody's word: asked of them, promised by them for today, or asked of them about another's promise. */
export function waitingFor(app: WaitingServices, { person, zone }: SignedIn): WaitingView[] {
  const { stores, source, clock } = app;
  const now = clock.now();
  const today = zone.dayOf(now);
  const when = (at: number) => shortMoment(at, zone, today);
  const nameOf = (id: number) => stores.tasks.byId(id)?.name ?? 'a removed task';
  const questions = stores.questions.openFor(person.id).map((one): WaitingView => ({
    ...{ kind: 'question', key: `question ${one.id}`, id: one.id, taskId: one.taskId },
    task: nameOf(one.taskId),
    words: `“${one.text}”, asked ${when(one.askedAt)}`,
    otherwise: `without an answer by ${when(one.answerBy)} ${NO_ANSWER[one.otherwise]}`
  }));
  const needed = app.sweepQuestions.openFor(person.id).map(({ question, task }): WaitingView => ({
    ...{ kind: 'still needed', key: `needed ${question.id}`, id: question.id, taskId: task.id },
    task: task.name,
    words: `nobody has changed it since ${when(task.touchedAt)}`,
    otherwise: `without an answer it is ${THEN[question.otherwise]} on ${when(question.untilAt)}`
  }));
  const isGoingOn = ({ taskId, round }: PromiseRecord) => {
    const task = stores.tasks.byId(taskId);
    return task !== null && isOpen(task.phase) && task.setAside === null && task.round === round;
  };
  const promises = stores.promises.openBy(person.id, zone.endOfDay(today)).filter(isGoingOn);
  const promised = promises.map((one): WaitingView => ({
    ...{ kind: 'promise', key: `promise ${one.id}`, id: one.id, taskId: one.taskId },
    task: nameOf(one.taskId),
    words: `you promised it for ${shortDay(parseDay(one.promised!), today)}; that ends ${when(one.untilAt)}`,
    otherwise: null
  }));
  const approvals = stores.promises.asked().flatMap((one): WaitingView[] => {
    const task = stores.tasks.factsOf(one.taskId);
    if (!task || one.personId === person.id || !app.promises.mayAnswer(task, person.id)) return [];
    const by = source.facts.people.get(one.personId)?.name ?? 'A removed person';
    const name = task.private && task.ownerId !== person.id ? 'a private task' : task.name;
    return [
      {
        ...{ kind: 'approval', key: `approval ${one.id}`, id: one.id, taskId: one.taskId },
        task: name,
        words: `${by} promises it for ${shortDay(parseDay(one.promised!), today)}, later than its due date`,
        otherwise: `without an answer by ${when(one.untilAt)} it counts as a no`
      }
    ];
  });
  const times = stores.placements.withoutTime(person.id).map(({ id, name }): WaitingView => ({
    ...{ kind: 'time', key: `time ${id}`, id, taskId: id, task: name },
    words: 'it is finished, and its time is not logged yet',
    otherwise: null
  }));
  return [...questions, ...promised, ...needed, ...approvals, ...times];
}

/** So many late tasks are looked through for ladders. */
const MOST_LOOKED_AT = 200;

/** Tasks of somebody that are on a ladder, and that they have not acknowledged: it takes a while to know, and comes after the page. */
export function toAcknowledge(
  app: DeskServices & { escalations: Escalations },
  { person, viewer, sight }: SignedIn
): WaitingView[] {
  const desk = deskOf(app, person.id);
  const late = desk.entries.filter(({ place }) => place === 'today').slice(0, MOST_LOOKED_AT);
  return late.flatMap(({ row }): WaitingView[] => {
    const task = app.stores.tasks.factsOf(row.id);
    if (!task || !canBeOverdue(task) || app.stores.promises.openOf(row.id)) return [];
    const [ladder] = app.escalations.ofTask(task, viewer, sight);
    if (!ladder) return [];
    const next = ladder.next
      ? `the next level tells ${ladder.next.who.join(', ') || 'somebody above you'}, ${ladder.next.time.here ?? ladder.next.time.there}`
      : 'it is on a ladder';
    return [
      {
        ...{ kind: 'acknowledge', key: `acknowledge ${row.id}`, id: row.id, taskId: row.id, task: row.name },
        words: next,
        otherwise: null
      }
    ];
  });
}
