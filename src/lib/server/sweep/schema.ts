import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import { UNANSWERED, type SweepDefinition } from '../../core/sweep/model.ts';
import { scheduleSchema } from '../digest/schema.ts';
import { watchSchema } from '../rule/schema.ts';

/** A sweep as its page sends it. */
export interface SweepInput {
  name: string;
  description: string;
  definition: SweepDefinition;
}

const name = Joi.string()
  .trim()
  .max(120)
  .required()
  .messages({
    'string.empty': errorSentence('sweep-no-name'),
    'any.required': errorSentence('sweep-no-name')
  });

const act = Joi.alternatives().try(
  Joi.object({ act: Joi.valid('close', 'purge', 'ask a date', 'bring back').required() }),
  Joi.object({ act: Joi.valid('archive').required(), after: Joi.valid('closed', 'finished').required() }),
  Joi.object({
    act: Joi.valid('still needed').required(),
    answerDays: Joi.number().integer().min(1).max(60).required(),
    otherwise: Joi.valid(...UNANSWERED).required()
  }),
  Joi.object({ act: Joi.valid('re-date').required(), to: Joi.valid('today', 'next working day').required() }),
  Joi.object({
    act: Joi.valid('report slips').required(),
    atLeast: Joi.number().integer().min(1).max(100).required()
  })
);

export const sweepSchema = Joi.object<SweepInput>({
  name,
  description: Joi.string().allow('').trim().max(2_000).default(''),
  definition: Joi.object({
    watch: watchSchema.required(),
    act: act.required(),
    wait: Joi.object({
      n: Joi.number().integer().min(0).max(3_650).required(),
      unit: Joi.valid('hour', 'day', 'workday').required()
    }).required(),
    when: Joi.alternatives()
      .conditional('.by', {
        is: 'schedule',
        then: scheduleSchema,
        otherwise: Joi.object({ by: Joi.valid('hand').required() })
      })
      .required(),
    goes: Joi.valid('unless stopped', 'after a yes').required(),
    cutOff: Joi.valid('go on', 'undo').required()
  }).required()
});
