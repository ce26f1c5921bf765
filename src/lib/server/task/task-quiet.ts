import { shortDay, shortMoment } from '../../core/time/format.ts';
import { isSilent, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { QuietView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { HandRings } from '../rule/hand-rings.ts';
import { formatDay } from '../../core/time/day.ts';

/** What these views ask. */
type Services = Workspace & { handRings: HandRings };

/** What is asked about a task, what can be rung for it by hand, and what keeps it quiet. */
export function quietOf(
  app: Services,
  task: TaskFacts,
  personId: number,
  zone: Zone,
  editable: boolean,
  coordinates: boolean
): QuietView {
  const now = app.clock.now();
  const nowDay = zone.dayOf(now);
  const { stores } = app;
  const nameOf = (id: number | null) =>
    id === null ? 'nobody' : (stores.people.byId(id)?.name ?? 'somebody');
  const waitingRuns = stores.runs.waitingOf(task.id);
  return {
    hushes: stores.hushes
      .endingAfter(now)
      .filter(
        ({ of, id }) => (of === 'task' && id === task.id) || (of === 'project' && id === task.projectId)
      )
      .map(({ hushId, of, until, byId, note }) => ({
        id: hushId,
        of: of === 'task' ? 'this task' : 'its project',
        until: shortDay(zone.dayOf(until - 1), nowDay),
        by: nameOf(byId),
        note,
        mayEnd: of === 'task' ? editable : coordinates
      })),
    waiting: stores.notices.waitingOf(task.id).length + waitingRuns.length,
    unwanted: isSilent(task, personId, now),
    tomorrow: formatDay(nowDay + 1),
    questions: stores.questions.openOf(task.id).map((question) => ({
      id: question.id,
      text: question.text,
      asked: nameOf(question.personId),
      by: shortMoment(question.answerBy, zone, nowDay),
      otherwise: question.otherwise,
      mine: coordinates || question.personId === personId
    })),
    buttons: editable
      ? app.handRings.buttonsFor(task).map(({ ruleId, caption }) => ({ ruleId, caption }))
      : [],
    /** Runs that wait: what will run later is shown as coming, with its time. */
    runs: waitingRuns.map((run) => ({
      id: run.id,
      rule: stores.rules.byId(run.ruleId)?.name ?? 'a removed rule',
      until: run.nextAt === null ? '' : shortMoment(run.nextAt, zone, nowDay),
      asking: run.state === 'asking'
    })),
    snoozable: stores.notices
      .ofTask(task.id)
      .filter(
        ({ state, recipientId, readerId }) =>
          state === 'sent' && (recipientId === personId || readerId === personId)
      )
      .slice(-3)
      .map(({ id, ruleId, leavesAt, snooze }) => ({
        id,
        rule: stores.rules.byId(ruleId)?.name ?? 'a removed rule',
        at: shortMoment(leavesAt!, zone, nowDay),
        snooze
      }))
  };
}
