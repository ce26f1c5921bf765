import type { TaskInput } from './schema.ts';
import type { Stores } from '../store/all.ts';
import type { Task } from '../store/tasks.ts';

/** A task as its form holds it: everything that can be written in it. */
export type TaskForm = Required<Omit<TaskInput, 'dueZone'>>;

/** What the form of a task is filled with. */
export function formOf(task: Task, stores: Stores): TaskForm {
  return {
    ...ownFieldsOf(task),
    otherOwnerIds: stores.tasks.otherOwnersOf(task.id),
    tags: stores.taskParts.tags(task.id).map((tag) => tag.name),
    fields: Object.fromEntries(stores.fields.valuesOf(task.id).map(({ fieldId, value }) => [fieldId, value]))
  };
}

/** Those of its fields that the task itself holds. */
export function ownFieldsOf(task: Task): Omit<TaskForm, 'otherOwnerIds' | 'tags' | 'fields'> {
  const { name, description, projectId, ownerId, statusId, priority, due, start, remindOn, renewal } = task;
  return {
    name,
    description,
    projectId,
    ownerId,
    statusId,
    priority,
    dueDate: due?.date ?? null,
    dueTime: due?.time ?? null,
    startDate: start?.date ?? null,
    startTime: start?.time ?? null,
    private: task.private,
    remindDate: remindOn?.date ?? null,
    remindTime: remindOn?.time ?? null,
    percent: task.percent,
    parentId: task.parentId,
    sectionId: task.sectionId,
    logTime: task.logTime,
    keep: task.keep,
    rhythm: renewal?.rhythm ?? null,
    renewFrom: renewal?.from ?? 'due',
    renewClosedDay: renewal?.closedDay ?? 'as-is',
    renewCopy: renewal?.copy ?? false
  };
}

/** Fields that are one thing to a person: a date and its time are changed, and lost, together. */
const TOGETHER: readonly (readonly (keyof TaskForm)[])[] = [
  ['dueDate', 'dueTime'],
  ['startDate', 'startTime'],
  ['remindDate', 'remindTime'],
  ['rhythm', 'renewFrom', 'renewClosedDay', 'renewCopy']
];

/** A field that somebody else changed meanwhile: theirs stays, and ours is told. */
export interface LostField {
  fields: (keyof TaskForm)[];
  yours: Partial<TaskForm>;
  theirs: Partial<TaskForm>;
}

/**
 * What of an edit is written, field by field: what the editor changed and nobody else did since.
 * @param base as the editor found the task; null takes the whole edit
 */
export function mergeEdit(
  edit: Partial<TaskInput>,
  base: Partial<TaskForm> | null,
  current: TaskForm
): { patch: Partial<TaskInput>; lost: LostField[] } {
  if (base === null) return { patch: edit, lost: [] };
  const patch: Partial<TaskInput> = {};
  const lost: LostField[] = [];
  const done = new Set<keyof TaskForm>();
  for (const key of Object.keys(edit) as (keyof TaskForm)[]) {
    if (done.has(key) || edit[key] === undefined) continue;
    const fields = TOGETHER.find((group) => group.includes(key)) ?? [key];
    fields.forEach((field) => done.add(field));
    const present = fields.filter((field) => edit[field] !== undefined);
    const differs = (a: Partial<TaskInput>, b: Partial<TaskInput>) =>
      present.some((field) => !isSame(a[field], b[field]));
    const known = present.every((field) => field in base);
    if (known && !differs(edit, base)) continue;
    if (known && differs(current, base) && differs(current, edit))
      lost.push({ fields: present, yours: only(edit, present), theirs: only(current, present) });
    else Object.assign(patch, only(edit, present));
  }
  return { patch, lost };
}

function only(from: Partial<TaskInput>, fields: readonly (keyof TaskForm)[]): Partial<TaskForm> {
  return Object.fromEntries(fields.map((field) => [field, from[field]]));
}

function isSame(a: unknown, b: unknown): boolean {
  return JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
}
