import Joi from 'joi';
import { PRIORITIES, type Priority } from '../../core/task/model.ts';
import { dateField, idField } from '../input/fields.ts';

/** What is done to many tasks at once. */
export type BulkChange =
  | { act: 'due'; date: string | null }
  | { act: 'shift'; n: number; unit: 'day' | 'workday' }
  | { act: 'owner'; id: number | null }
  | { act: 'status'; id: number }
  | { act: 'priority'; priority: Priority }
  | { act: 'project'; id: number | null }
  | { act: 'tag' | 'untag'; name: string }
  | { act: 'park'; date: string | null }
  | { act: 'archive' | 'bin' | 'restore' };

export interface BulkInput {
  /** These tasks; or, without them, all that the list of `query` holds. */
  ids: number[] | null;
  query: string;
  change: BulkChange;
}

const act = (name: string, rest: Joi.SchemaMap = {}) =>
  Joi.object({ act: Joi.valid(name).required(), ...rest });

export const bulkSchema = Joi.object<BulkInput>({
  ids: Joi.array().items(Joi.number().integer().positive()).max(100_000).allow(null).default(null),
  query: Joi.string().allow('').max(4_000).default(''),
  change: Joi.alternatives(
    act('due', { date: dateField }),
    act('shift', {
      n: Joi.number().integer().min(-3_650).max(3_650).required(),
      unit: Joi.valid('day', 'workday').required()
    }),
    act('owner', { id: idField }),
    act('status', { id: idField.required() }),
    act('priority', { priority: Joi.valid(...PRIORITIES).required() }),
    act('project', { id: idField }),
    act('tag', { name: Joi.string().trim().min(1).max(60).required() }),
    act('untag', { name: Joi.string().trim().min(1).max(60).required() }),
    act('park', { date: dateField }),
    act('archive'),
    act('bin'),
    act('restore')
  ).required()
});
