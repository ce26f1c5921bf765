import Joi from 'joi';
import { CodedError } from '../../core/errors.ts';
import { parseDay } from '../../core/time/day.ts';
import { parseTimeOfDay, typedTime } from '../../core/time/time-of-day.ts';
import { canonicalZoneName } from '../../core/time/zone-names.ts';

/** Turns a check of the core into a Joi rule, so that its sentence reaches the form. */
export function checked(check: (text: string) => void): Joi.CustomValidator<string> {
  return (value, helpers) => {
    try {
      check(value);
      return value;
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      return helpers.message({ custom: error.message.replaceAll('{', '(').replaceAll('}', ')') });
    }
  };
}

/** A date, a time, an id of which nothing may be said: absent stays absent. A form sends an empty text for what was left out. */
export const maybeDate = Joi.string().trim().custom(checked(parseDay)).empty('').allow(null);
export const maybeTime = Joi.string()
  .trim()
  .custom((value: string) => typedTime(value) ?? value)
  .custom(checked(parseTimeOfDay))
  .empty('')
  .allow(null);
export const maybeId = Joi.number().integer().positive().empty('').allow(null);

export const dateField = maybeDate.default(null);
export const timeField = maybeTime.default(null);
export const zoneField = Joi.string().trim().custom(checked(canonicalZoneName));
export const idField = maybeId.default(null);

/** The first fault of each field, in words. */
export type FieldErrors = Record<string, string>;

/** What a form gave, or what is wrong with it. */
export type Read<T> = { ok: true; value: T } | { ok: false; errors: FieldErrors };

/** Validates what came in; the sentence of each fault stands under the name of its field. */
export function read<T>(schema: Joi.ObjectSchema<T>, input: unknown): Read<T> {
  const result = schema.validate(input, {
    abortEarly: false,
    stripUnknown: true,
    errors: { wrap: { label: false } }
  });
  if (!result.error) return { ok: true, value: result.value };
  const errors: FieldErrors = {};
  for (const { path, message } of result.error.details) errors[path.join('.')] ??= message;
  return { ok: false, errors };
}

/** As `read`, where there is no form to say it in. @throws CodedError `bad-field` with the first fault */
export function readOrRefuse<T>(schema: Joi.ObjectSchema<T>, sent: unknown): T {
  const input = read(schema, sent);
  if (!input.ok)
    throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]!.replace(/\.$/, '') });
  return input.value;
}
