import { formatInstant } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import type { CompiledLead } from './compile-lead.ts';
import type { TaskFacts } from './facts.ts';

/** Whether a schedule tells each recipient of a task once for its due date, however often it finds it. */
export function isOncePerDate({ lead }: CompiledLead): boolean {
  return lead.kind === 'schedule' && lead.oncePerDate;
}

/** By what a schedule's ring for a task is known: the occurrence, or the date that is its due date. */
export function scheduleValue(lead: CompiledLead, task: TaskFacts, at: InstantMs): string {
  return isOncePerDate(lead) ? `due ${task.due?.day ?? 'none'}` : formatInstant(at);
}
