import type { Stores } from '../store/all.ts';
import type { Digests } from './digests.ts';

/** The next instant at which something rings or leaves, workspace clock; null when nothing is planned. */
export function nextInstant(
  { plan, notices, runs, schedules }: Stores,
  digests: Pick<Digests, 'nextAt'>
): number | null {
  return earliest(
    plan.nextInstant(),
    notices.nextLeaving(),
    runs.nextAt(),
    schedules.nextAt(),
    digests.nextAt()
  );
}

/** The first of some instants; null where none is known. */
export function earliest(...instants: (number | null)[]): number | null {
  const known = instants.filter((at) => at !== null);
  return known.length === 0 ? null : Math.min(...known);
}
