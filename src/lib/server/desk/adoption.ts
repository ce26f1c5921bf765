import { UNLOOKED_DAYS, UNPLACED_DAYS } from '../../core/desk/owner-days.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import { shortDay } from '../../core/time/format.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { AdoptionView } from '../../view/desk.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { DeskServices } from './desk-of.ts';

/** Whose tasks wait to be placed for too long, and who does not look at their Desk though they have tasks. */
export function adoption(app: DeskServices, viewer: Viewer): AdoptionView {
  const { stores, source } = app;
  const now = app.clock.now();
  const looks = stores.deskLooks.lastOfAll();
  const people = [...source.facts.people.values()].filter(({ id, active }) => active && id > 0);
  const unplaced = people.flatMap((person) => {
    const count = stores.placements.unplacedBefore(
      person.id,
      beginningOfDaysAgo(person, now, UNPLACED_DAYS + 1)
    );
    return count === 0 ? [] : [{ id: person.id, name: person.name, count }];
  });
  const away = people.flatMap((person) => {
    const last = looks.get(person.id) ?? null;
    const isLong = last === null || last < beginningOfDaysAgo(person, now, UNLOOKED_DAYS);
    if (!isLong || stores.tasks.openOf(person.id) === 0) return [];
    const words =
      last === null ? 'never' : `last on ${shortDay(viewer.zone.dayOf(last), viewer.zone.dayOf(now))}`;
    return [{ id: person.id, name: person.name, last: words }];
  });
  return {
    unplaced: unplaced.sort((a, b) => b.count - a.count || a.id - b.id),
    tasks: unplaced.reduce((sum, { count }) => sum + count, 0),
    away
  };
}

/** The first instant of the n-th working day before tomorrow, where somebody is: what was before has stood for at least n of them. */
function beginningOfDaysAgo({ zone, calendar }: PersonFacts, now: InstantMs, n: number): InstantMs {
  return zone.startOfDay(calendar.days.offset(zone.dayOf(now) + 1, -n));
}
