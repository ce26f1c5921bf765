import { fail } from '@sveltejs/kit';
import { CodedError } from '../../core/errors.ts';
import { blankTask, type TaskFormView } from '../../view/tasks.ts';
import { read, type Read } from '../input/fields.ts';
import { personSchema, type PersonInput } from '../person/schema.ts';
import { taskSchema, type TaskInput } from '../task/schema.ts';

/** What the form of a task sends: the task as written, as it was found, and whether open subtasks are finished with it. */
export interface TaskSubmission {
  input: Read<TaskInput>;
  /** As typed, so that nothing is lost. */
  values: TaskFormView;
  base: TaskFormView | null;
  withSubtasks: boolean;
}

/**
 * Reads a task from a submitted form; the values come back with the faults, so that nothing typed is lost.
 * @throws CodedError `bad-json`
 */
export async function readTaskForm(request: Request): Promise<TaskSubmission> {
  const form = await request.formData();
  const values = { ...blankTask(), ...(parsed(form.get('task')) as Partial<TaskFormView> | null) };
  return {
    input: read(taskSchema, values),
    values,
    base: parsed(form.get('base')) as TaskFormView | null,
    withSubtasks: form.get('withSubtasks') === 'yes'
  };
}

/** JSON that a field carries; null for an empty one. @throws CodedError `bad-json` */
export function parsed(text: FormDataEntryValue | null): unknown {
  if (typeof text !== 'string' || text === '') return null;
  try {
    return JSON.parse(text);
  } catch (failure) {
    throw new CodedError('bad-json', { detail: (failure as Error).message });
  }
}

/** A whole number of a form's field; null where there is none. */
export function idOf(form: FormData, name: string): number | null {
  const id = Number(form.get(name));
  return Number.isSafeInteger(id) && id > 0 ? id : null;
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
    return fail(400, { values, errors: { [error.field ?? '']: error.message } });
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
