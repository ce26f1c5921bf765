import { parseDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { LostFieldView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { LostField, TaskForm } from './task-form.ts';

/** What a form calls its fields, by the column whose change names who made it. */
const FIELDS: Readonly<Partial<Record<keyof TaskForm, readonly [label: string, column: string]>>> = {
  name: ['Task', 'name'],
  description: ['Description', 'description'],
  projectId: ['Project', 'project_id'],
  sectionId: ['Section', 'section_id'],
  ownerId: ['Owner', 'owner_id'],
  statusId: ['Status', 'status_id'],
  priority: ['Priority', 'priority'],
  dueDate: ['Due date', 'due_date'],
  dueTime: ['Due date', 'due_time'],
  startDate: ['Start date', 'start_date'],
  remindDate: ['Reminder date', 'remind_date'],
  private: ['Private', 'private'],
  percent: ['Percent', 'percent'],
  rhythm: ['Repeats', 'rhythm']
};

/** Fields that somebody else changed meanwhile, with who and both values in words. */
export function lostWords(app: Workspace, taskId: number, lost: readonly LostField[]): LostFieldView[] {
  const record = app.stores.taskParts.record(taskId, 50);
  return lost.map(({ fields, yours, theirs }) => {
    const [label, column] = FIELDS[fields[0]!] ?? [fields[0]!, ''];
    const change = record.find(({ before, after }) => before && after && before[column] !== after[column]);
    const by =
      change?.actorId == null ? 'Somebody' : (app.stores.people.byId(change.actorId)?.name ?? 'Somebody');
    return { label, by, yours: words(app, fields, yours), theirs: words(app, fields, theirs), values: yours };
  });
}

function words(app: Workspace, fields: readonly (keyof TaskForm)[], values: Partial<TaskForm>): string {
  const written = fields.flatMap((field) => {
    const value = values[field];
    if (value === null || value === undefined || value === '') return [];
    if (field === 'ownerId') return app.source.facts.people.get(Number(value))?.name ?? 'a removed person';
    if (field === 'projectId')
      return app.source.facts.projects.get(Number(value))?.name ?? 'a removed project';
    if (field === 'statusId')
      return app.stores.projects.statuses().find(({ id }) => id === value)?.name ?? 'a removed status';
    if (field.endsWith('Date')) return shortDay(parseDay(String(value)));
    if (Array.isArray(value)) return value.join(', ');
    return typeof value === 'object' ? JSON.stringify(value) : String(value);
  });
  return written.join(', ') || 'nothing';
}
