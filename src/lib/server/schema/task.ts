import Joi from 'joi';
import { PRIORITIES, type Priority } from '../../core/rule/model.ts';
import { errorSentence } from '../../core/errors.ts';
import { dateField, idField, timeField } from './fields.ts';

/** A task as a form gives it. Times are on the wall of the task's zone: the owner's, else the workspace's. */
export interface TaskInput {
  name: string;
  description: string;
  projectId: number | null;
  ownerId: number | null;
  statusId: number | null;
  priority: Priority;
  dueDate: string | null;
  dueTime: string | null;
  startDate: string | null;
  startTime: string | null;
  /** Seen by its owner alone. */
  private: boolean;
}

/** The longest name a task may have. */
export const LONGEST_NAME = 500;

export const taskSchema = Joi.object<TaskInput>({
  name: Joi.string()
    .trim()
    .max(LONGEST_NAME)
    .required()
    .messages({
      'string.empty': errorSentence('task-no-name'),
      'any.required': errorSentence('task-no-name'),
      'string.max': `Keep the name under ${LONGEST_NAME} characters; the rest fits into the description.`
    }),
  description: Joi.string().allow('').max(20_000).default(''),
  projectId: idField,
  ownerId: idField,
  statusId: idField,
  priority: Joi.valid(...PRIORITIES).default('ordinary'),
  dueDate: dateField,
  dueTime: timeField,
  startDate: dateField,
  startTime: timeField,
  private: Joi.boolean().default(false)
}).custom((value: TaskInput, helpers) => {
  if (value.dueTime && !value.dueDate) return helpers.message({ custom: errorSentence('time-without-date') });
  if (value.startTime && !value.startDate)
    return helpers.message({ custom: errorSentence('time-without-date') });
  return value;
});
