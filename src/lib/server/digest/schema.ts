import { IMPORTANCES } from '../../core/rule/step-model.ts';
import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import {
  DIGEST_ABOUT,
  DIGEST_SECTIONS,
  TABLE_GROUPS,
  TABLE_ORDERS,
  LONGEST_OPENING,
  LONGEST_SUBJECT,
  blankDigest,
  type DigestDefinition
} from '../../core/digest/model.ts';
import { CLOSED_DAY_RULES } from '../../core/ring/lead.ts';
import { parseRecurrenceRule } from '../../core/recurrence/rrule.ts';
import { parseDay } from '../../core/time/day.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { checked, zoneField } from '../input/fields.ts';
import { attachSchema, columnsSchema, watchSchema } from '../rule/schema.ts';

/** A digest as its page sends it. */
export interface DigestInput {
  name: string;
  description: string;
  definition: DigestDefinition;
}

const id = Joi.number().integer().positive().required();

/** A schedule as a page sends it, of a digest or of a sweep. */
export const scheduleSchema = Joi.object({
  by: Joi.valid('schedule').required(),
  rrule: Joi.string().max(500).required().custom(checked(parseRecurrenceRule)),
  start: Joi.string().required().custom(checked(parseDay)),
  time: Joi.string().max(5).required().custom(checked(parseTimeOfDay)),
  zone: zoneField.allow(null).default(null),
  closedDay: Joi.valid(...CLOSED_DAY_RULES).default('as-is')
});

const when = Joi.alternatives().conditional('.by', {
  is: 'schedule',
  then: scheduleSchema,
  otherwise: Joi.object({ by: Joi.valid('own hours').required() })
});

const reader = Joi.alternatives().conditional('.who', {
  is: Joi.valid('person', 'group', 'readers'),
  then: Joi.object({ who: Joi.valid('person', 'group', 'readers').required(), id }),
  otherwise: Joi.object({ who: Joi.valid('everybody', 'managers', 'coordinator', 'keeper').required() })
});

export const digestSchema = Joi.object<DigestInput>({
  name: Joi.string()
    .trim()
    .max(120)
    .required()
    .messages({
      'string.empty': errorSentence('digest-no-name'),
      'any.required': errorSentence('digest-no-name')
    }),
  description: Joi.string().allow('').trim().max(2_000).default(''),
  definition: Joi.object({
    when: when.required(),
    to: Joi.array().items(reader).max(100).required(),
    about: Joi.valid(...DIGEST_ABOUT).required(),
    gather: Joi.valid('each', 'together').required(),
    watch: watchSchema.required(),
    sections: Joi.array()
      .items(Joi.valid(...DIGEST_SECTIONS))
      .unique()
      .required(),
    nextWorkingDays: Joi.number().integer().min(1).max(60).required(),
    table: Joi.object({
      list: Joi.number().integer().positive().allow(null).default(null),
      order: Joi.valid(...TABLE_ORDERS).default('due'),
      group: Joi.valid(...TABLE_GROUPS).default('none')
    }).default(() => blankDigest().table),
    columns: columnsSchema.required(),
    empty: Joi.valid('skip', 'all clear').required(),
    attach: attachSchema,
    subject: Joi.string()
      .allow('')
      .trim()
      .max(LONGEST_SUBJECT)
      .pattern(/^[^\r\n]*$/)
      .default(''),
    opening: Joi.string().allow('').trim().max(LONGEST_OPENING).default(''),
    importance: Joi.valid(...IMPORTANCES).default('ordinary')
  }).required()
});
