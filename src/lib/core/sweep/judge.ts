import { inScope, compileWatch, type CompiledWatch } from '../rule/watch.ts';
import { canBeOverdue, type TaskFacts } from '../forecast/facts/facts.ts';
import type { Planner } from '../forecast/plan/planner.ts';
import type { TaskDetails } from '../task/details.ts';
import { instantOnWall } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { phasesOf, standingsOf, takesAway, type SweepAct, type SweepDefinition } from './model.ts';
import { readyAt } from './wait.ts';

/** Why a sweep leaves a task that it would take otherwise. */
export const PROTECTIONS = [
  'marked “keep”',
  'has no completion time',
  'has open subtasks',
  'time not logged',
  'it cannot be computed for this task'
] as const;
export type Protection = (typeof PROTECTIONS)[number];

/** What a sweep makes of a task at an instant. */
export type Verdict =
  /** It is not one of those that the sweep looks at. */
  | { is: 'not looked at' }
  /** Its wait is not over. */
  | { is: 'waits'; until: InstantMs }
  | { is: 'protected'; why: Protection }
  /** @property since what its wait counted from */
  | { is: 'taken'; since: InstantMs; readyAt: InstantMs };

/** A sweep ready to be asked of many tasks. */
export interface CompiledSweep {
  act: SweepAct;
  wait: SweepDefinition['wait'];
  watch: CompiledWatch;
  standings: ReadonlySet<string | null>;
  zone: Zone;
}

/**
 * @param keeperId whose private tasks it may take
 * @param zone on whose wall its days are counted
 */
export function compileSweep(
  { watch, act, wait }: SweepDefinition,
  keeperId: number | null,
  world: Parameters<typeof compileWatch>[2],
  zone: Zone
): CompiledSweep {
  const standings = standingsOf(act);
  const compiled = compileWatch(
    {
      watch: {
        ...watch,
        phases: [...phasesOf(act)],
        seen: standings.filter((one) => one !== null)
      },
      leads: []
    },
    keeperId,
    world
  );
  return { act, wait, watch: compiled, standings: new Set(standings), zone };
}

const NOT_LOOKED_AT: Verdict = { is: 'not looked at' };

/**
 * What a sweep makes of a task, asked for one instant from the facts as they stand.
 * @param at the instant of the sweep, ms
 */
export function judge(
  sweep: CompiledSweep,
  planner: Planner,
  task: TaskFacts,
  details: TaskDetails,
  at: InstantMs
): Verdict {
  if (!sweep.standings.has(task.aside) || !inScope(sweep.watch, task)) return NOT_LOOKED_AT;
  const since = sinceWhen(sweep, planner, task, details);
  if (since === null || !planner.watches({ watch: sweep.watch, id: 0 }, task, at, details))
    return NOT_LOOKED_AT;
  const why = protectionOf(sweep.act, details);
  if (why) return { is: 'protected', why };
  const owner = task.ownerId === null ? undefined : planner.facts.people.get(task.ownerId);
  const calendar = owner?.calendar ?? planner.facts.workspace.calendar;
  // Only what is taken away must have been done with at a known moment, so nothing without one comes this far.
  const ready = readyAt(since, sweep.wait, sweep.zone, calendar);
  return ready <= at ? { is: 'taken', since, readyAt: ready } : { is: 'waits', until: ready };
}

/** What the wait of an act counts from, never a due date where something was finished; null where the act has nothing to do with the task. */
function sinceWhen(
  { act, zone }: CompiledSweep,
  planner: Planner,
  task: TaskFacts,
  details: TaskDetails
): InstantMs | null {
  switch (act.act) {
    case 'close':
      // A thing of a register is no work: it is neither closed, asked about nor re-dated.
      return task.register ? null : (details.finishedAt ?? 0);
    case 'archive':
      return (act.after === 'finished' ? details.finishedAt : (details.closedAt ?? details.finishedAt)) ?? 0;
    case 'purge':
      return details.asideAt ?? 0;
    case 'still needed':
      return task.register ? null : details.touchedAt;
    case 'ask a date':
      return task.register || task.due !== null ? null : details.createdAt;
    case 're-date':
      return canBeOverdue(task) ? planner.dates.momentOf('due', task) : null;
    case 'report slips':
      return details.slips >= act.atLeast ? details.createdAt : null;
    case 'bring back':
      return details.reviewDate === null ? null : instantOnWall(details.reviewDate.day, 0, zone);
  }
}

function protectionOf(act: SweepAct, details: TaskDetails): Protection | null {
  if (details.keep) return 'marked “keep”';
  if (!takesAway(act)) return null;
  if (details.finishedAt === null) return 'has no completion time';
  if (details.openSubtasks > 0) return 'has open subtasks';
  return details.logTime && details.minutesLogged === 0 ? 'time not logged' : null;
}
