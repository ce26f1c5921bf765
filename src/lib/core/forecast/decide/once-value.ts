import { formatDay } from '../../time/day.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { TaskFacts } from '../facts/facts.ts';

/**
 * By which value a step knows what it does once: that of the date that rang, as notices are known by it, and of what is counted from
 * nothing the due date. A second lateness is another value.
 */
export function onceValue(lead: CompiledLead | undefined, anchorValue: string, { due }: TaskFacts): string {
  if (lead && lead.anchor !== null) return anchorValue;
  return due ? formatDay(due.day) : '';
}
