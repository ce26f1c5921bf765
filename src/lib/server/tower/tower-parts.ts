import type { PersonFacts, TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import { rollUp } from '../../core/digest/roll-up.ts';
import { BANDS } from '../../core/ring/overdue.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { Zone } from '../../core/time/zone.ts';
import { nameFor } from '../../view/bell-view.ts';
import type { LoudDay, OverdueBand, SlippingTask, StuckPerson } from '../../view/tower.ts';
import type { Stores } from '../store/all.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** A task that was moved later this often slips again and again. */
const SLIPS = 2;
/** Of each list so many are named. */
const NAMED = 5;
/** More rings of a day than this are too loud for somebody who has set no most. */
const LOUD = 10;
const LOUD_DAYS = 7;

/** What of open work is overdue by band of working days, the youngest first. */
export function overdueByAge(planner: Planner, open: readonly TaskFacts[], now: number): OverdueBand[] {
  const { byBand } = rollUp(planner, open, [], now, null).total;
  return BANDS.map((band, i) => ({ band, count: byBand[i]! }));
}

/** Who waits for others, and how long by working days; the longest first. */
export function stuckPeople(
  planner: Planner,
  open: readonly TaskFacts[],
  now: number,
  sinceOf: (taskId: number) => number
): StuckPerson[] {
  const found = new Map<number, StuckPerson>();
  for (const task of open) {
    if (task.phase !== 'stuck on others') continue;
    const id = task.ownerId ?? 0;
    const name = id === 0 ? 'no owner' : (planner.facts.people.get(id)?.name ?? 'a removed person');
    const line = found.get(id) ?? { personId: task.ownerId, name, count: 0, workingDays: 0 };
    const zone = planner.dates.ownerZone(task);
    const days = planner.dates
      .workingDaysOf(task)
      .count(zone.dayOf(sinceOf(task.id)) + 1, zone.dayOf(now) + 1);
    found.set(id, { ...line, count: line.count + 1, workingDays: Math.max(line.workingDays, days) });
  }
  return [...found.values()].sort((a, b) => b.workingDays - a.workingDays || b.count - a.count);
}

/** Open tasks that were moved later again and again, the worst first, and how many there are. */
export function slippingAgain(
  open: readonly TaskFacts[],
  slips: ReadonlyMap<number, number>,
  viewer: Viewer
): { count: number; tasks: SlippingTask[] } {
  const found = open.filter(({ id }) => (slips.get(id) ?? 0) >= SLIPS);
  const worst = [...found].sort((a, b) => slips.get(b.id)! - slips.get(a.id)! || a.id - b.id);
  return {
    count: found.length,
    tasks: worst
      .slice(0, NAMED)
      .map((task) => ({ id: task.id, name: nameFor(task, viewer), slips: slips.get(task.id)! }))
  };
}

/** Days of the next week on which more is planned to ring for somebody than they take. */
export function loudDays(
  stores: Stores,
  people: ReadonlyMap<number, PersonFacts>,
  now: number,
  viewer: Zone
): LoudDay[] {
  const counts = new Map<number, Map<number, number>>();
  for (const { recipientId, ringAt } of stores.plan.ringsBetween(now, now + LOUD_DAYS * MS_PER_DAY)) {
    const person = people.get(recipientId);
    if (!person) continue;
    const day = person.zone.dayOf(ringAt);
    let own = counts.get(recipientId);
    if (!own) counts.set(recipientId, (own = new Map()));
    own.set(day, (own.get(day) ?? 0) + 1);
  }
  const loud = [...counts].flatMap(([personId, days]) => {
    const { name, dailyCap } = people.get(personId)!;
    return [...days]
      .filter(([, count]) => count > (dailyCap ?? LOUD))
      .map(([day, count]) => ({ personId, name, day, count, cap: dailyCap }));
  });
  return loud
    .sort((a, b) => b.count - a.count || a.day - b.day)
    .slice(0, NAMED)
    .map(({ day, ...rest }) => ({ ...rest, day: shortDay(day, viewer.dayOf(now)) }));
}
