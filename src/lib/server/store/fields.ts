import type { FieldKind, FieldValue } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';

/** A field of the workspace's own, that every task has. */
export interface Field {
  id: number;
  name: string;
  kind: FieldKind;
  choices: string[];
  /** The status that meets it, where its date is a deadline. */
  metByStatusId: number | null;
}

export interface FieldValueRow {
  id: number;
  fieldId: number;
  value: FieldValue;
}

export class FieldStore {
  readonly #all;
  readonly #values;
  readonly #use;

  constructor(db: Db) {
    this.#all = db.prepare<[], Omit<Field, 'choices'> & { choices: string }>(
      'SELECT id, name, kind, choices, met_by_status_id AS metByStatusId FROM field ORDER BY position, id'
    );
    this.#values = db.prepare<[number], { id: number; fieldId: number; value: string }>(
      'SELECT id, field_id AS fieldId, value FROM field_value WHERE task_id = ?'
    );
    this.#use = db.prepare<[number], { id: number }>('SELECT id FROM field_value WHERE field_id = ?');
  }

  /** In the order in which they are shown. */
  all(): Field[] {
    return this.#all
      .all()
      .map(({ choices, ...field }) => ({ ...field, choices: JSON.parse(choices) as string[] }));
  }

  valuesOf(taskId: number): FieldValueRow[] {
    return this.#values
      .all(taskId)
      .map(({ value, ...row }) => ({ ...row, value: JSON.parse(value) as FieldValue }));
  }

  /** Rows that hold a value of a field. */
  valueIds(fieldId: number): number[] {
    return this.#use.all(fieldId).map(({ id }) => id);
  }
}
