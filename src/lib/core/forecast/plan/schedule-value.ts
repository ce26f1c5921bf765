import { occurrenceName, type ScheduleRing } from '../../recurrence/schedule.ts';
import { formatInstant } from '../../time/instant.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { TaskFacts } from '../facts/facts.ts';
import type { LeadAnchors } from './lead-anchors.ts';

/** Whether a schedule tells each recipient of a task once for a date of it, however often it finds it. */
export function isOncePerDate({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.oncePerDate;
}

/** Whether a schedule rings for each task on the clock of its owner or project, or for each recipient on their own. */
export function isOnOwnClocks({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.zone.of !== 'workspace' && lead.zone.of !== 'named';
}

/**
 * By what a schedule's ring for a task is known: the date that it tells once, the occurrence by its local date and time where it
 * comes on every clock, else its instant.
 */
export function scheduleValue(
  planner: { anchors: LeadAnchors },
  compiled: CompiledLead,
  task: TaskFacts,
  ring: ScheduleRing
): string {
  const { lead } = compiled;
  if (lead.kind === 'schedule' && lead.oncePerDate) {
    const { date, field } = lead.onceFor ?? { date: 'due' };
    const name = field ? `field ${field.id} ${field.end}` : date;
    return `${name} ${planner.anchors.dateOfOnce(compiled, task)?.day ?? 'none'}`;
  }
  return isOnOwnClocks(compiled) ? occurrenceName(ring.last) : formatInstant(ring.at);
}
