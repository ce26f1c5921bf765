import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import type { EndOfDay } from '../../core/ring/moments.ts';
import { PHASES, type Phase } from '../../core/task/model.ts';
import { parseTimeOfDay, typedTime } from '../../core/time/time-of-day.ts';
import { checked, idField, zoneField } from '../input/fields.ts';
import { emailField } from '../person/schema.ts';

/** What a workspace sets for all, as its form gives it. */
export interface SettingsInput {
  name: string;
  zone: string;
  calendarId: number;
  noticeTime: string;
  endOfDay: EndOfDay;
  mailFromName: string;
  mailFromAddress: string;
}

export const settingsSchema = Joi.object<SettingsInput>({
  name: Joi.string().trim().max(200).required().messages({ '*': 'Give the workspace a name.' }),
  zone: zoneField
    .required()
    .messages({ 'string.empty': 'Choose a time zone.', 'any.required': 'Choose a time zone.' }),
  calendarId: Joi.number().integer().positive().required().messages({ '*': 'Choose a calendar.' }),
  noticeTime: Joi.string()
    .trim()
    .custom((value: string) => typedTime(value) ?? value)
    .custom(checked((text) => void parseTimeOfDay(text)))
    .required()
    .messages({ 'string.empty': 'Give the notice time.', 'any.required': 'Give the notice time.' }),
  endOfDay: Joi.valid('midnight', 'close').required(),
  mailFromName: Joi.string()
    .trim()
    .max(200)
    .required()
    .messages({ '*': 'Give the name that mail comes from.' }),
  mailFromAddress: emailField.required().messages({
    'string.empty': 'Give the address that mail comes from.',
    'any.required': 'Give the address that mail comes from.'
  })
});

export interface StatusInput {
  id: number | null;
  name: string;
  phase: Phase;
  position: number;
}

export const statusSchema = Joi.object<StatusInput>({
  id: idField,
  name: Joi.string()
    .trim()
    .max(60)
    .required()
    .messages({
      'string.empty': errorSentence('status-no-name'),
      'any.required': errorSentence('status-no-name'),
      'string.max': 'Keep the name under 60 characters.'
    }),
  phase: Joi.valid(...PHASES).required(),
  position: Joi.number().integer().min(0).max(200).default(100)
});
