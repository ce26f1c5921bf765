import { MS_PER_DAY, MS_PER_MINUTE, formatDay } from '../../core/time/day.ts';
import { clockTime } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { DeskBell } from '../../view/desk.ts';
import type { BellView } from '../../view/models.ts';
import type { NoticeState } from '../store/notices.ts';
import type { Sight } from '../store/tasks.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import { Wall } from '../../core/desk/wall.ts';
import { CodedError } from '../../core/errors.ts';
import type { DeskServices } from './desk-of.ts';

/** What has left, or has been handed over to leave. */
const LEFT: readonly NoticeState[] = ['sending', 'sent', 'in doubt'];
/** So many are drawn on a page. */
const MOST_BELLS = 300;

/**
 * The bells that a person reads on the days that their Desk shows, today's past ones too, on their own wall.
 * @param sight of whoever looks: of tasks that they do not see nothing is said
 */
export function deskBells(
  app: DeskServices & { forecasts: ForecastService },
  personId: number,
  sight: Sight
): DeskBell[] {
  const person = app.source.facts.people.get(personId);
  if (!person) throw new CodedError('person-gone');
  const { zone } = person;
  const wall = new Wall(zone, person.calendar.calendar);
  const now = app.clock.now();
  const today = wall.todayAt(now);
  const viewer = { zone, personId: sight.personId };
  const until = wall.beginningOf(wall.nextWeekAfter(today) + 7);
  const ahead = app.forecasts
    .bellsOf(personId, now, until, viewer)
    .filter(({ unrung }) => unrung === null)
    .slice(0, MOST_BELLS);
  const { notices, outboxList } = app.stores;
  const rung = outboxList
    .readBetween(personId, wall.beginningOf(today), now)
    .flatMap((id) => notices.byId(id) ?? [])
    .filter(({ state }) => LEFT.includes(state))
    .slice(0, MOST_BELLS)
    .map((notice) => app.forecasts.recorded(notice, viewer));
  const seen = app.stores.tasks.seen([...new Set([...ahead, ...rung].map(({ taskId }) => taskId))], sight);
  const views = (bells: readonly BellView[], hasRung: boolean) =>
    bells
      .filter(({ taskId }) => seen.has(taskId))
      .map((bell): DeskBell => {
        const at: InstantMs = bell.time.atMs;
        const day = wall.todayAt(at);
        return {
          key: `${hasRung ? 'rung' : 'ahead'} ${bell.key} ${at}`,
          date: formatDay(day),
          minute: Math.floor((zone.localOf(at) - day * MS_PER_DAY) / MS_PER_MINUTE),
          time: clockTime(at, zone),
          kind: bell.kind,
          rung: hasRung,
          about: bell.taskName,
          rule: bell.ruleName,
          taskId: bell.taskId,
          why: bell.why
        };
      });
  return [...views(rung, true), ...views(ahead, false)];
}
