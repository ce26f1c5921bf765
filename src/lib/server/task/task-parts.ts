import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { FieldValue } from '../../core/task/model.ts';
import type { Field } from '../store/fields.ts';
import type { Stores } from '../store/all.ts';

/** Makes a task's tags these, each once however it is written. */
export function syncTags(
  writer: ChangeWriter,
  stores: Stores,
  taskId: number,
  names: readonly string[]
): void {
  const wanted = new Map(names.map((name) => [name.trim().toLowerCase(), name.trim()]));
  wanted.delete('');
  for (const { id, name } of stores.taskParts.tags(taskId))
    if (!wanted.delete(name.toLowerCase())) writer.remove('task_tag', id);
  for (const name of wanted.values()) writer.insert('task_tag', { task_id: taskId, name });
}

/** Makes these people the owners besides the first. */
export function syncOwners(
  writer: ChangeWriter,
  stores: Stores,
  taskId: number,
  personIds: readonly number[]
): void {
  const before = stores.tasks.otherOwnersOf(taskId);
  if (JSON.stringify(before) === JSON.stringify(personIds)) return;
  for (const id of stores.taskParts.idsOf('co_owner', taskId)) writer.remove('co_owner', id);
  [...new Set(personIds)].forEach((person_id, position) =>
    writer.insert('co_owner', { task_id: taskId, person_id, position })
  );
}

/**
 * Writes values of the workspace's own fields; null takes one out.
 * @throws CodedError `field-value` when a value does not go with its field
 */
export function syncFields(
  writer: ChangeWriter,
  stores: Stores,
  taskId: number,
  values: Record<number, FieldValue | null>
): void {
  const known = stores.fields.valuesOf(taskId);
  for (const field of stores.fields.all()) {
    const given = values[field.id];
    if (given === undefined) continue;
    const value = checkFieldValue(field, given);
    const row = known.find(({ fieldId }) => fieldId === field.id);
    if (value === null) {
      if (row) writer.remove('field_value', row.id);
    } else if (row) writer.update('field_value', row.id, { value: JSON.stringify(value) });
    else writer.insert('field_value', { task_id: taskId, field_id: field.id, value: JSON.stringify(value) });
  }
}

/**
 * A value as its field stores it; null when it is empty.
 * @throws CodedError `field-value`
 */
export function checkFieldValue(field: Field, given: unknown): FieldValue | null {
  if (given === null || given === '' || (Array.isArray(given) && given.length === 0)) return null;
  try {
    const value = READERS[field.kind](given, field);
    if (value !== undefined) return value;
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    throw new CodedError('field-value', { field: field.name, detail: error.message }, `fields.${field.id}`);
  }
  throw new CodedError(
    'field-value',
    { field: field.name, detail: `“${String(given)}” is not of the kind “${field.kind}”.` },
    `fields.${field.id}`
  );
}

const date = (text: unknown) => {
  parseDay(String(text));
  return String(text);
};

/** Each kind's reading of what came in; undefined when it does not go with it. */
const READERS: Record<Field['kind'], (given: unknown, field: Field) => FieldValue | undefined | null> = {
  text: (given) => String(given).slice(0, 5_000),
  number: (given) => {
    const number = Number(String(given).replace(',', '.'));
    return Number.isFinite(number) ? number : undefined;
  },
  'yes or no': (given) =>
    given === true || given === 'yes' ? true : given === false || given === 'no' ? false : undefined,
  'one choice': (given, { choices }) => choices.find((choice) => choice === given),
  'many choices': (given, { choices }) => {
    const chosen = [given].flat().map(String);
    return chosen.every((choice) => choices.includes(choice)) ? chosen : undefined;
  },
  person: (given) => positive(given),
  people: (given) => {
    const ids = [given].flat().map(positive);
    return ids.every((id) => id !== undefined) ? ids : undefined;
  },
  date,
  'date with time': (given) => {
    const [day = '', time = ''] = String(given).split('T');
    date(day);
    parseTimeOfDay(time);
    return `${day}T${time}`;
  },
  'date range': (given) => {
    const { from, until } = given as { from?: string; until?: string };
    if (!from && !until) return null;
    const range = { from: date(from || until), until: date(until || from) };
    return range.from <= range.until ? range : undefined;
  },
  link: (given) => {
    const text = String(given).trim();
    // What can be pressed leads to a page, and never runs.
    return /^https?:\/\/[^\s]{3,2000}$/i.test(text) ? text : undefined;
  }
};

function positive(given: unknown): number | undefined {
  const id = Number(given);
  return Number.isSafeInteger(id) && id > 0 ? id : undefined;
}
