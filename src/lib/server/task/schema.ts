import Joi from 'joi';
import { TASK_DATES } from '../../core/anchor/anchors.ts';
import { PRIORITIES, type Priority, type FieldValue, type StoredRhythm } from '../../core/task/model.ts';
import { CLOSED_DAY_RULES, UNITS, type ClosedDayRule } from '../../core/ring/lead.ts';
import { RENEW_FROM, type RenewFrom } from '../../core/recurrence/renewal.ts';
import { parseRecurrenceRule } from '../../core/recurrence/rrule.ts';
import type { ReminderTiming } from '../../core/forecast/facts/reminders.ts';
import { errorSentence } from '../../core/errors.ts';
import {
  checked,
  dateField,
  idField,
  maybeDate,
  maybeId,
  maybeTime,
  timeField,
  zoneField
} from '../input/fields.ts';

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
  /** The zone of a due time, where it is not that of the owner. */
  dueZone?: string;
  remindDate?: string | null;
  remindTime?: string | null;
  /** Owners besides the first, who leads. */
  otherOwnerIds?: number[];
  tags?: string[];
  percent?: number | null;
  /** Whose subtask it is. */
  parentId?: number | null;
  sectionId?: number | null;
  /** Time must be logged before it is done with. */
  logTime?: boolean;
  /** No sweep may take it. */
  keep?: boolean;
  /** How it comes back; null when it does not. */
  rhythm?: StoredRhythm | null;
  renewFrom?: RenewFrom;
  renewClosedDay?: ClosedDayRule;
  renewCopy?: boolean;
  /** Values of the workspace's own fields; null takes one out. */
  fields?: Record<number, FieldValue | null>;
}

/** The longest name a task may have. */
export const LONGEST_NAME = 500;
const LONGEST_DESCRIPTION = 20_000;
const MOST_TAGS = 30;

const rhythmSchema = Joi.alternatives(
  Joi.object({
    n: Joi.number().integer().min(1).max(1_000).required(),
    unit: Joi.valid('day', 'week', 'month', 'workday').required()
  }),
  Joi.object({
    rrule: Joi.string()
      .trim()
      .max(500)
      .custom(checked((text) => void parseRecurrenceRule(text)))
      .required()
  })
).messages({ 'alternatives.match': 'Give a whole number of days, weeks, months or working days.' });

/** The fields of a task one by one, none of them needed: what is absent stays as it is. */
const taskFields = {
  name: Joi.string()
    .trim()
    .max(LONGEST_NAME)
    .messages({
      'string.empty': errorSentence('task-no-name'),
      'any.required': errorSentence('task-no-name'),
      'string.max': `The name is too long (at most ${LONGEST_NAME} characters). Use the description.`
    }),
  description: Joi.string()
    .allow('')
    .max(LONGEST_DESCRIPTION)
    .messages({
      'string.max': `Keep the description under ${LONGEST_DESCRIPTION.toLocaleString('en')} characters.`
    }),
  projectId: maybeId,
  ownerId: maybeId,
  statusId: maybeId,
  priority: Joi.valid(...PRIORITIES),
  dueDate: maybeDate,
  dueTime: maybeTime,
  startDate: maybeDate,
  startTime: maybeTime,
  private: Joi.boolean(),
  remindDate: maybeDate,
  remindTime: maybeTime,
  otherOwnerIds: Joi.array().items(Joi.number().integer().positive()).unique().max(50),
  tags: Joi.array()
    .items(Joi.string().trim().min(1).max(60))
    .max(MOST_TAGS)
    .messages({
      'array.max': `A task can have ${MOST_TAGS} tags at most.`,
      'string.max': 'A tag has at most 60 characters.'
    }),
  percent: Joi.number().integer().min(0).max(100).empty('').allow(null).messages({
    'number.base': 'Percent is a whole number from 0 to 100.',
    'number.integer': 'Percent is a whole number from 0 to 100.',
    'number.min': 'Percent is a whole number from 0 to 100.',
    'number.max': 'Percent is a whole number from 0 to 100.'
  }),
  parentId: maybeId,
  sectionId: maybeId,
  logTime: Joi.boolean(),
  keep: Joi.boolean(),
  rhythm: rhythmSchema.allow(null),
  renewFrom: Joi.valid(...RENEW_FROM),
  renewClosedDay: Joi.valid(...CLOSED_DAY_RULES),
  renewCopy: Joi.boolean(),
  fields: Joi.object().pattern(/^\d+$/, Joi.any())
};

/** A change of some fields: what is absent stays as it is. */
export const taskPatchSchema = Joi.object<Partial<TaskInput>>(taskFields);

/** A whole task: what is basic is filled in where it is absent. */
/** What of a task is text, where the rest is read otherwise: the cells of a sheet. */
export const taskTextSchema = Joi.object<Pick<TaskInput, 'name' | 'description' | 'tags'>>({
  name: taskFields.name.required(),
  description: taskFields.description.default(''),
  tags: taskFields.tags
});

export const taskSchema = Joi.object<TaskInput>({
  ...taskFields,
  name: taskFields.name.required(),
  description: taskFields.description.default(''),
  projectId: idField,
  ownerId: idField,
  statusId: idField,
  priority: taskFields.priority.default('ordinary'),
  dueDate: dateField,
  dueTime: timeField,
  startDate: dateField,
  startTime: timeField,
  private: taskFields.private.default(false)
}).custom((value: TaskInput, helpers) => {
  for (const [date, time] of [
    [value.dueDate, value.dueTime],
    [value.startDate, value.startTime],
    [value.remindDate, value.remindTime]
  ])
    if (time && !date) return helpers.message({ custom: errorSentence('time-without-date') });
  return value;
});

export interface CommentInput {
  text: string;
}
export const commentSchema = Joi.object<CommentInput>({
  text: Joi.string()
    .trim()
    .max(20_000)
    .required()
    .messages({ 'string.empty': 'Write something first.', 'any.required': 'Write something first.' })
});

export interface TimeInput {
  minutes: number;
  note: string;
}
export const timeSchema = Joi.object<TimeInput>({
  minutes: Joi.number().integer().min(1).max(144_000).required().messages({
    'number.base': 'Write the time like 1:30 or 90 minutes.',
    'any.required': 'Write the time like 1:30 or 90 minutes.',
    'number.min': 'Log at least one minute.'
  }),
  note: Joi.string().trim().allow('').max(500).default('')
});

export interface ReminderInput {
  /** For whoever owns the task, or for oneself. */
  whose: 'owner' | 'mine';
  timing: ReminderTiming;
}
export const reminderSchema = Joi.object<ReminderInput>({
  whose: Joi.valid('owner', 'mine').required(),
  timing: Joi.alternatives(
    Joi.object({
      anchor: Joi.valid(...TASK_DATES).required(),
      n: Joi.number().integer().min(-100_000).max(100_000).required(),
      unit: Joi.valid(...UNITS).required()
    }),
    Joi.object({ date: dateField.required(), time: timeField.required(), zone: zoneField.required() })
  ).required()
});

export interface ParkInput {
  reviewDate: string | null;
}
export const parkSchema = Joi.object<ParkInput>({ reviewDate: dateField });
