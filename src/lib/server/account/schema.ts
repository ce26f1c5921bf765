import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import { zoneField } from '../input/fields.ts';
import { emailField } from '../person/schema.ts';

const SHORTEST_PASSWORD = 10;

export const signInSchema = Joi.object<{ email: string; password: string }>({
  email: emailField
    .required()
    .messages({ 'any.required': 'Give your mail address.', 'string.empty': 'Give your mail address.' }),
  password: Joi.string().max(500).required().messages({ '*': 'Give your password.' })
});

const passwordField = Joi.string()
  .min(SHORTEST_PASSWORD)
  .max(500)
  .required()
  .messages({ '*': errorSentence('password-short', { least: SHORTEST_PASSWORD }) });

export const passwordSchema = Joi.object<{ password: string }>({ password: passwordField });

export const forgottenSchema = Joi.object<{ email: string }>({
  email: emailField
    .required()
    .messages({ 'any.required': 'Give your mail address.', 'string.empty': 'Give your mail address.' })
});

export interface FirstCoordinator {
  workspace: string;
  name: string;
  email: string;
  password: string;
  zone: string;
}

export const firstCoordinatorSchema = Joi.object<FirstCoordinator>({
  workspace: Joi.string().trim().max(200).required().messages({ '*': 'Give the workspace a name.' }),
  name: Joi.string()
    .trim()
    .max(200)
    .required()
    .messages({ '*': errorSentence('person-no-name') }),
  email: emailField
    .required()
    .messages({ 'any.required': 'Give your mail address.', 'string.empty': 'Give your mail address.' }),
  password: passwordField,
  zone: zoneField
    .required()
    .messages({ 'string.empty': 'Choose a time zone.', 'any.required': 'Choose a time zone.' })
});
