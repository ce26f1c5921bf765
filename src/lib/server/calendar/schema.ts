import Joi from 'joi';
import { WEEKDAYS, parseInterval, type WeekSpec } from '../../core/calendar/spec.ts';
import { errorSentence } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { checked } from '../input/fields.ts';

/** A calendar as its page gives it. */
export interface CalendarInput {
  name: string;
  week: WeekSpec;
  weeks: { from: string; week: WeekSpec }[];
  days: { date: string; name: string | null; intervals: string[] }[];
}

const MOST_DAYS = 20_000;

const date = Joi.string().custom(checked(parseDay)).required();
const intervals = Joi.array()
  .items(Joi.string().trim().custom(checked(parseInterval)))
  .max(12);
const week = Joi.object<WeekSpec>(Object.fromEntries(WEEKDAYS.map((weekday) => [weekday, intervals])));

export const calendarSchema = Joi.object<CalendarInput>({
  name: Joi.string()
    .trim()
    .max(200)
    .required()
    .messages({
      'string.empty': errorSentence('calendar-no-name'),
      'any.required': errorSentence('calendar-no-name')
    }),
  week: week.required(),
  weeks: Joi.array()
    .items(Joi.object({ from: date, week: week.required() }))
    .max(60)
    .unique('from')
    .messages({ 'array.unique': 'Two weeks start on the same date. Change one.' })
    .default([]),
  days: Joi.array()
    .items(
      Joi.object({
        date,
        name: Joi.string().trim().max(200).empty('').allow(null).default(null),
        intervals: intervals.required()
      })
    )
    .max(MOST_DAYS)
    .unique('date')
    .messages({ 'array.unique': 'A date is there twice.' })
    .default([])
});

/** What is asked of the bundled set of holidays. */
export const holidaysSchema = Joi.object<{ region: string; fromYear: number; toYear: number }>({
  region: Joi.string()
    .pattern(/^[A-Z]{2}(-[A-Z0-9]{1,4})?$/)
    .required()
    .messages({ '*': 'Choose a country.' }),
  fromYear: Joi.number().integer().min(1950).max(2150).required(),
  toYear: Joi.number().integer().min(Joi.ref('fromYear')).max(2150).required()
}).custom((value: { region: string; fromYear: number; toYear: number }, helpers) =>
  value.toYear - value.fromYear > 20 ? helpers.message({ custom: 'Choose at most 20 years.' }) : value
);
