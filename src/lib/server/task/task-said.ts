import { canBeOverdue, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { formatDay, parseDay } from '../../core/time/day.ts';
import { shortDay, shortMoment } from '../../core/time/format.ts';
import type { TaskSaid } from '../../view/escalations.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Escalations } from '../ladder/escalations.ts';
import type { Promises } from './promises.ts';
import type { PromiseRecord } from '../store/promises.ts';
import type { BellView } from '../../view/models.ts';
import { stillRings } from './still-rings.ts';
import type { Sight } from '../store/tasks.ts';
import { nextWorkingDay } from './promises.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { escalations: Escalations; promises: Promises };

/**
 * What stands of a task's ladders, and what was said of it in its present round.
 * @param coming its bells ahead
 */
export function saidOf(
  app: Services,
  task: TaskFacts,
  viewer: Viewer,
  sight: Sight,
  mayChange: boolean,
  coming: readonly BellView[]
): TaskSaid {
  const now = app.clock.now();
  const { zone, personId } = viewer;
  const today = zone.dayOf(now);
  const { facts, planner } = app.source;
  const dueAt = planner.dates.momentOf('due', task);
  const ladders = app.escalations.ofTask(task, viewer, sight);
  const isDue = dueAt !== null && now >= dueAt - DAY_BEFORE_MS;
  const person = personId === null ? undefined : facts.people.get(personId);
  return {
    offered: mayChange && canBeOverdue(task) && (isDue || ladders.length > 0),
    today: formatDay(today),
    nextDay: formatDay(person ? nextWorkingDay(person, today) : today + 1),
    ladders,
    stuck:
      task.phase === 'stuck on others'
        ? `Waits for others: ${ladders.length > 0 ? 'its ladder is paused, ' : ''}${stillRings(coming, 'stuck on others', null)}.`
        : null,
    lines: app.stores.promises
      .of(task.id)
      .filter(({ round }) => round === task.round)
      .map((said) => ({
        id: said.id,
        words: `${facts.people.get(said.personId)?.name ?? 'A removed person'}, ${shortMoment(said.madeAt, zone, today)}: ${
          said.promised === null ? 'seen' : `promised for ${shortDay(parseDay(said.promised), today)}`
        }`,
        became:
          said.state === 'open'
            ? quietWords(said, shortMoment(said.untilAt, zone, today), ladders.length > 0, coming)
            : BECAME[said.state],
        mayAnswer: said.state === 'asked' && personId !== null && app.promises.mayAnswer(task, personId)
      }))
  };
}

/** From the day that it is due on it can be acknowledged. */
const DAY_BEFORE_MS = 86_400_000;

const BECAME: Record<Exclude<PromiseRecord['state'], 'open'>, string> = {
  asked: 'later than the due date: needs approval',
  refused: 'refused',
  over: 'over',
  kept: 'kept',
  broken: 'not kept'
};

/** What is quiet until then, as the plan has it. */
function quietWords(
  { untilAt }: PromiseRecord,
  until: string,
  hasLadder: boolean,
  coming: readonly BellView[]
): string {
  const still = hasLadder ? 'its ladder is paused, ' : '';
  return `until ${until}: ${still}${stillRings(coming, 'acknowledged', untilAt)}`;
}
