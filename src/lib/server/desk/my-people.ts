import { CodedError } from '../../core/errors.ts';
import { MS_PER_MINUTE, formatDay } from '../../core/time/day.ts';
import { clockTime, shortMoment } from '../../core/time/format.ts';
import { ceilToMinute } from '../../core/time/instant.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { MyPersonView } from '../../view/desk.ts';
import type { TaskActs } from '../task/task-acts.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import { deskOf, isLate, type DeskServices } from './desk-of.ts';
import type { Said } from './word.ts';

/** Those who answer to somebody, each with what stands on their Desk. */
export function myPeople(app: DeskServices, { sight, zone }: SignedIn): MyPersonView[] {
  const { people } = app.source.facts;
  const now = app.clock.now();
  return sight.reports
    .flatMap((id) => people.get(id) ?? [])
    .filter(({ active }) => active)
    .map((person): MyPersonView => {
      const desk = deskOf(app, person.id);
      const seen = desk.entries.filter((entry) => !entry.private);
      const todays = seen.filter(({ place }) => place === 'today');
      const back = person.leave.endOf(now);
      return {
        id: person.id,
        name: person.name,
        there: `${clockTime(now, person.zone)} in ${placeOfZone(person.zone.nameAt(now))}`,
        late: todays.filter((entry) => isLate(entry, desk)).length,
        today: todays.length,
        stuck: seen.filter(({ row }) => row.phase === 'stuck on others').length,
        toPlace: seen.filter(({ place }) => place === 'to-place').length,
        away: Number.isNaN(back) ? null : `on leave until ${shortMoment(back, zone, zone.dayOf(now))}`
      };
    })
    .sort((a, b) => b.late - a.late || b.toPlace - a.toPlace || a.name.localeCompare(b.name, 'en'));
}

/**
 * Asks the owner of a task about it now: a reminder for this minute, which goes the way of every notice. Once a day for each task.
 * @throws CodedError `task-gone`, `desk-not-yours`, `asked-today`
 */
export function askNow(
  app: DeskServices & { taskActs: TaskActs; forecasts: ForecastService },
  { actor, sight, zone, viewer }: SignedIn,
  taskId: number
): Said {
  const { stores, source } = app;
  const task = stores.tasks.byId(taskId);
  if (!task || !stores.tasks.seen([taskId], sight).has(taskId)) throw new CodedError('task-gone');
  const owner = task.ownerId === null ? undefined : source.facts.people.get(task.ownerId);
  if (!owner || !(sight.all || sight.reports.includes(owner.id))) throw new CodedError('desk-not-yours');
  const now = app.clock.now();
  const at = ceilToMinute(now + MS_PER_MINUTE);
  const date = formatDay(owner.zone.dayOf(at));
  const isAsked = stores.taskParts
    .reminders(taskId)
    .some(({ setBy, timing }) => setBy === actor.personId && 'date' in timing && timing.date === date);
  if (isAsked) throw new CodedError('asked-today', { name: owner.name });
  const timing = { date, time: clockTime(at, owner.zone), zone: owner.zone.nameAt(at) };
  const { changeId } = app.taskActs.remind(actor, taskId, { whose: 'owner', timing });
  const bell = app.forecasts
    .ofTask(taskId, at + WAITED_MS, viewer)
    .find(({ recipientId, heldFrom, time, unrung }) => {
      const ringsAt = heldFrom?.atMs ?? time.atMs;
      return recipientId === owner.id && unrung === null && ringsAt === at;
    });
  const when = bell ? shortMoment(bell.time.atMs, zone, zone.dayOf(now)) : null;
  const to =
    bell && bell.readerId !== owner.id ? `${bell.readerName}, in place of ${owner.name},` : owner.name;
  return {
    message:
      when === null
        ? `No notice can reach ${owner.name} about it.`
        : `${to} is asked about “${task.name}”, ${when}.`,
    changeId
  };
}

/** A notice may wait so long for somebody. */
const WAITED_MS = 40 * 86_400_000;
