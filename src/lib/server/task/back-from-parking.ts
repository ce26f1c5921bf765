import type { Facts, PersonFacts } from '../../core/forecast/facts/facts.ts';
import { Readers } from '../../core/forecast/plan/readers.ts';
import { leaving } from '../../core/ring/leaving.ts';
import { parseDay } from '../../core/time/day.ts';
import { instantOnWall } from '../../core/time/instant.ts';
import type { Task } from '../store/tasks.ts';

/** To whom a parked task comes back: whoever parked it; gone, whoever had it; gone too, a coordinator. Null where nobody is there. */
export function backTo(
  { people }: Facts,
  task: Pick<Task, 'parkedBy' | 'formerOwnerId'>
): PersonFacts | null {
  for (const id of [task.parkedBy, task.formerOwnerId]) {
    const person = id === null ? undefined : people.get(id);
    if (person?.active) return person;
  }
  return [...people.values()].find(({ active, coordinates }) => active && coordinates) ?? null;
}

/**
 * When a parked task comes back: at the workspace's notice time on its review date, on the wall of whoever gets it, or, where they do not work
 * then, at their next opening. Null for what is not parked.
 */
export function backAt(
  facts: Facts,
  task: Pick<Task, 'setAside' | 'reviewDate' | 'parkedBy' | 'formerOwnerId'>
): number | null {
  if (task.setAside !== 'parked' || task.reviewDate === null) return null;
  const to = backTo(facts, task);
  const { workspace } = facts;
  const at = instantOnWall(parseDay(task.reviewDate), workspace.noticeMinute, to?.zone ?? workspace.zone);
  if (!to) return at;
  const opens = leaving(at, new Readers(facts).of(to, 'working hours'), 'wait').at;
  return Number.isNaN(opens) ? at : opens;
}

/**
 * Whether what is parked until a date would come back at once: that day has begun already for whoever gets it.
 * @param now workspace clock
 */
export function isBackAtOnce(
  facts: Facts,
  task: Pick<Task, 'ownerId' | 'formerOwnerId'>,
  reviewDate: string | null,
  parkedBy: number | null,
  now: number
): boolean {
  const formerOwnerId = task.ownerId ?? task.formerOwnerId;
  const at = backAt(facts, { setAside: 'parked', reviewDate, parkedBy, formerOwnerId });
  return at !== null && at <= now;
}
