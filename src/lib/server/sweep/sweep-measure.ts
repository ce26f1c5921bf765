import type { Zone } from '../../core/time/zone.ts';
import type { MachineClock } from '../engine/clock.ts';
import type { Stores } from '../store/all.ts';
import { readListQuery } from '../store/list-query.ts';
import type { SweepMeasure } from '../store/sweep-runs.ts';
import type { TaskListService } from '../task/task-list.ts';

/** Nobody in particular, who sees everything that is not private. */
const ANYBODY = { personId: 0, all: true, reports: [] };

/** How many tasks stand in the lists, and how long a search in them for a word takes on this machine. */
export function measureLists(
  stores: Stores,
  lists: TaskListService,
  zone: Zone,
  machine: MachineClock
): SweepMeasure {
  const word = stores.tasks.byId(stores.tasks.highestId())?.name.split(/\s+/)[0] ?? 'task';
  const query = readListQuery(new URLSearchParams({ text: word, show: 'all' }));
  const began = machine.steadyMs();
  lists.page(query, null, { zone, personId: null }, ANYBODY);
  const searchMs = machine.steadyMs() - began;
  return { listed: stores.tasks.countStanding(null), searchMs: Math.round(searchMs * 10) / 10 };
}
