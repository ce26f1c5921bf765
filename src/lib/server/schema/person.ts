import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import { idField, zoneField } from './fields.ts';

export interface PersonInput {
  name: string;
  email: string | null;
  zone: string;
  calendarId: number;
  managerId: number | null;
  role: 'owner' | 'manager' | 'coordinator';
}

/** Mail addresses are checked for shape, not against the list of top-level domains: `.example` is a good one. */
export const emailField = Joi.string()
  .trim()
  .max(254)
  .email({ tlds: false })
  .messages({ 'string.email': 'This is not a mail address. It looks like name@place.example.' });

export const personSchema = Joi.object<PersonInput>({
  name: Joi.string()
    .trim()
    .max(200)
    .required()
    .messages({
      'string.empty': errorSentence('person-no-name'),
      'any.required': errorSentence('person-no-name')
    }),
  email: emailField.empty('').allow(null).default(null),
  zone: zoneField
    .required()
    .messages({ 'string.empty': 'Choose a time zone.', 'any.required': 'Choose a time zone.' }),
  calendarId: Joi.number().integer().positive().required().messages({ '*': 'Choose a calendar.' }),
  managerId: idField,
  role: Joi.valid('owner', 'manager', 'coordinator').default('owner')
});
