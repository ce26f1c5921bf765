import { toldAbove } from '../../ladder/above.ts';
import type { ActOn } from '../../rule/resolve-act.ts';
import type { InstantMs } from '../../time/zone.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { TaskFacts } from '../facts/facts.ts';
import type { Planner } from '../plan/planner.ts';

/** A task as an act of a rule finds it. */
export function actOn(
  planner: Planner,
  rule: RuleFacts,
  task: TaskFacts,
  at: InstantMs,
  actorId: number | null
): ActOn {
  const { facts } = planner;
  const details = facts.detailsOf(task.id);
  const owner = task.ownerId === null ? undefined : facts.people.get(task.ownerId);
  const project = task.projectId === null ? undefined : facts.projects.get(task.projectId);
  return {
    task: {
      name: task.name,
      origin: task.made?.origin ?? task.name,
      projectId: task.projectId,
      sectionId: details.sectionId,
      ownerId: task.ownerId,
      due: task.due,
      start: task.start,
      priority: task.priority,
      description: details.description
    },
    at,
    zone: planner.dates.ownerZone(task),
    calendar: planner.dates.calendarOf(task),
    keeperId: rule.keeperId,
    actorId,
    creatorId: details.createdBy,
    managerId: owner?.managerId ?? null,
    // Whoever has nobody above keeps it with whoever keeps the rule.
    aboveId: (owner && toldAbove(owner, 1, facts)[0]?.id) ?? rule.keeperId,
    members: project?.members ?? [],
    values: {
      task: task.name,
      project: project?.name ?? '',
      owner: owner?.name ?? '',
      priority: task.priority
    }
  };
}
