import { fail } from '@sveltejs/kit';
import { CodedError } from '../core/errors.ts';
import type { TaskFormView } from '../view/tasks.ts';
import { read, type Read } from './schema/fields.ts';
import { personSchema, type PersonInput } from './schema/person.ts';
import { taskSchema, type TaskInput } from './schema/task.ts';

/** Reads a task from a submitted form; the values come back with the faults, so that nothing typed is lost. */
export async function readTaskForm(
  request: Request
): Promise<{ input: Read<TaskInput>; values: TaskFormView }> {
  const form = Object.fromEntries(await request.formData()) as Record<string, string>;
  const number = (name: string) => (form[name] ? Number(form[name]) : null);
  const values = {
    name: form.name ?? '',
    description: form.description ?? '',
    projectId: number('projectId'),
    ownerId: number('ownerId'),
    statusId: number('statusId'),
    priority: (form.priority ?? 'ordinary') as TaskFormView['priority'],
    dueDate: form.dueDate || null,
    dueTime: form.dueTime || null,
    startDate: form.startDate || null,
    startTime: form.startTime || null,
    private: form.private === 'on'
  };
  return { input: read(taskSchema, values), values };
}

/** Runs an act; a coded error comes back to the form with what was typed. */
export function orFail<T, V>(
  values: V,
  work: () => T
): T | ReturnType<typeof fail<{ values: V; errors: Record<string, string> }>> {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    return fail(400, { values, errors: { [error.field ?? '']: error.message } as Record<string, string> });
  }
}

/** What the form of a person holds. */
export interface PersonFormView {
  name: string;
  email: string;
  phone: string;
  zone: string;
  calendarId: number | null;
  managerId: number | null;
  role: PersonInput['role'];
  groups: string;
}

/** Reads a person from a submitted form, as above. */
export async function readPersonForm(
  request: Request
): Promise<{ input: Read<PersonInput>; values: PersonFormView }> {
  const form = Object.fromEntries(await request.formData()) as Record<string, string>;
  const number = (name: string) => (form[name] ? Number(form[name]) : null);
  const values: PersonFormView = {
    name: form.name ?? '',
    email: form.email ?? '',
    phone: form.phone ?? '',
    zone: form.zone ?? '',
    calendarId: number('calendarId'),
    managerId: number('managerId'),
    role: (form.role ?? 'owner') as PersonInput['role'],
    groups: form.groups ?? ''
  };
  const groups = [
    ...new Set(
      values.groups
        .split(',')
        .map((name) => name.trim())
        .filter(Boolean)
    )
  ];
  return { input: read(personSchema, { ...values, groups }), values };
}
