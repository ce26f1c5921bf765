import type { EventLead } from '../../rule/lead-model.ts';
import { isOpen, type Phase } from '../../task/model.ts';
import type { RuleEvent } from '../../rule/events.ts';
import type { OwnChange } from './own-changes.ts';

/** What happened to a task, from the values that changed: each thing once, with what it was and became. */
export function eventsOfChange(taskId: number, { before, after }: OwnChange): RuleEvent[] {
  const events: RuleEvent[] = [];
  const add = (name: RuleEvent['name'], key: string, field?: string | number) =>
    events.push({
      name,
      taskId,
      before: before[key] ?? null,
      after: after[key] ?? null,
      ...(field === undefined ? {} : { field })
    });
  if ('status' in after) add('status changed', 'status');
  if ('phase' in after) addPhase(before.phase as Phase, after.phase as Phase, add);
  if ('owner' in after && after.owner !== null) add('assigned', 'owner');
  if ('due' in after) add('re-dated', 'due');
  if ('aside' in after) {
    if (after.aside === 'archived') add('archived', 'aside');
    if (after.aside === null) add('restored', 'aside');
  }
  for (const key of Object.keys(after)) {
    if (['status', 'phase', 'aside'].includes(key)) continue;
    add('field changed', key, key.startsWith('own ') ? Number(key.slice(4)) : key);
  }
  return events;
}

function addPhase(before: Phase, after: Phase, add: (name: RuleEvent['name'], key: string) => void): void {
  add('phase changed', 'phase');
  if (after === 'finished' && isOpen(before)) add('finished', 'phase');
  // Work that is closed at once is finished too: nobody listens for the one and means the other.
  if (after === 'closed') {
    if (isOpen(before)) add('finished', 'phase');
    add('closed', 'phase');
  }
  if (isOpen(after) && !isOpen(before)) add('reopened', 'phase');
}

/** Whether a lead listens to what happened. */
export function listens(lead: EventLead, event: RuleEvent): boolean {
  if (lead.event !== event.name) return false;
  if (lead.field !== undefined && String(lead.field) !== String(event.field)) return false;
  const among = (wanted: readonly (string | number)[] | undefined, value: string | number | null) =>
    !wanted || wanted.length === 0 || wanted.some((one) => String(one) === String(value));
  return among(lead.from, event.before) && among(lead.to, event.after);
}
