import Joi from 'joi';
import { dateField, idField } from '../input/fields.ts';

/** For when somebody places tasks on their Desk. */
export interface PlaceInput {
  taskIds: number[];
  /** `leave`: where its dates say; `day`: on a date; else a span of the Desk. */
  to: 'leave' | 'today' | 'day' | 'rest' | 'after' | 'further';
  /** The date, with `day`. */
  day: string | null;
  /** The due date of those that are late then, or late already; null where none was given. */
  newDue: string | null;
  /** Late ones keep their due date all the same. */
  keepDue: boolean;
  /** What has no date has that day as its due date from then on. */
  asDue: boolean;
}

/** So many are placed together. */
const MOST_TOGETHER = 5_000;

export const placeSchema = Joi.object<PlaceInput>({
  taskIds: Joi.array()
    .items(Joi.number().integer().positive())
    .min(1)
    .max(MOST_TOGETHER)
    .unique()
    .required()
    .messages({
      'array.min': 'Choose at least one task.',
      'array.max': `At most ${MOST_TOGETHER} tasks are placed together.`
    }),
  to: Joi.valid('leave', 'today', 'day', 'rest', 'after', 'further').required(),
  day: dateField.when('to', {
    is: 'day',
    then: Joi.invalid(null).messages({ 'any.invalid': 'Give a date, such as “fri” or “9 mar”.' })
  }),
  newDue: dateField,
  keepDue: Joi.boolean().default(false),
  asDue: Joi.boolean().default(false)
});

const ids = Joi.array()
  .items(Joi.number().integer().positive())
  .min(1)
  .max(MOST_TOGETHER)
  .unique()
  .required();
const id = Joi.number().integer().positive().required();

/** Tasks of a day in the order of their person. */
export const orderSchema = Joi.object<{ taskIds: number[] }>({ taskIds: ids });

export interface BackInput {
  taskId: number;
  word: string;
}
export const backSchema = Joi.object<BackInput>({
  taskId: id,
  word: Joi.string().trim().allow('').max(2_000).default('').messages({
    'string.max': 'Write at most 2,000 characters.'
  })
});

export interface DeskParkInput {
  taskId: number;
  reviewDate: string | null;
}
export const deskParkSchema = Joi.object<DeskParkInput>({ taskId: id, reviewDate: dateField });

export interface FinishInput {
  taskId: number;
  /** Its open subtasks are finished with it. */
  withSubtasks: boolean;
}
export const finishSchema = Joi.object<FinishInput>({
  taskId: id,
  withSubtasks: Joi.boolean().default(false)
});

/** What somebody says to what waits for their word. */
export interface WordInput {
  kind: 'question' | 'still needed' | 'approval' | 'acknowledge' | 'time';
  id: number;
  /** `yes`, `no`, `change`, `keep`, `park`, `close`, or a time. */
  answer: string;
}
export const wordSchema = Joi.object<WordInput>({
  kind: Joi.valid('question', 'still needed', 'approval', 'acknowledge', 'time').required(),
  id,
  answer: Joi.string().trim().max(100).allow('').default('')
});

export const askSchema = Joi.object<{ taskId: number }>({ taskId: id });

export const keepSchema = Joi.object<{ text: string }>({
  text: Joi.string().trim().allow('').max(500).default('').messages({
    'string.max': 'A kept line has at most 500 characters.'
  })
});
export const idSchema = Joi.object<{ id: number }>({ id });

export interface ShelfInput {
  id: number | null;
  name: string;
  text: string;
  /** On the shelf of the team. */
  everybody: boolean;
}
export const shelfSchema = Joi.object<ShelfInput>({
  id: idField,
  name: Joi.string().trim().max(100).required().messages({ 'string.empty': 'Give it a name.' }),
  text: Joi.string().trim().max(5_000).required().messages({ 'string.empty': 'Write the text or the link.' }),
  everybody: Joi.boolean().default(false)
});

export const pinSchema = Joi.object<{ list: number; group: number | null }>({ list: id, group: idField });

export interface HabitInput {
  private: boolean;
  mine: boolean;
  dueDays: number | null;
  dueUnit: 'day' | 'workday';
}
export const habitSchema = Joi.object<HabitInput>({
  private: Joi.boolean().required(),
  mine: Joi.boolean().required(),
  dueDays: Joi.number().integer().min(0).max(366).empty('').allow(null).default(null).messages({
    'number.base': 'Give a number of days from 0 to 366, or leave it empty.',
    'number.max': 'Give a number of days from 0 to 366, or leave it empty.',
    'number.min': 'Give a number of days from 0 to 366, or leave it empty.'
  }),
  dueUnit: Joi.valid('day', 'workday').default('day')
});
