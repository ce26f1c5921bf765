import { occurrenceName, type ScheduleRing } from '../recurrence/schedule.ts';
import { formatInstant } from '../time/instant.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { TaskFacts } from './facts.ts';

/** Whether a schedule tells each recipient of a task once for its due date, however often it finds it. */
export function isOncePerDate({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.oncePerDate;
}

/** Whether a schedule rings for each task on the clock of its owner or project, or for each recipient on their own. */
export function isOnOwnClocks({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.zone.of !== 'workspace' && lead.zone.of !== 'named';
}

/**
 * By what a schedule's ring for a task is known: the date that is its due date, the occurrence by its local date and time where it
 * comes on every clock, else its instant.
 */
export function scheduleValue(lead: CompiledLead, task: TaskFacts, ring: ScheduleRing): string {
  if (isOncePerDate(lead)) return `due ${task.due?.day ?? 'none'}`;
  return isOnOwnClocks(lead) ? occurrenceName(ring.last) : formatInstant(ring.at);
}
