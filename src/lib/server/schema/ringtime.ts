import Joi from 'joi';
import { CodedError } from '../../core/errors.ts';
import type { RingCase } from '../../core/ring/case.ts';
import { CLOSED_DAY_RULES, UNITS } from '../../core/ring/lead.ts';

const text = Joi.string().max(100);
const intervals = Joi.array().items(Joi.string().max(11)).max(48);
const calendar = Joi.object({
  zone: text,
  week: Joi.object().pattern(Joi.string(), intervals).default({}),
  closed: Joi.array()
    .items(text, Joi.object({ date: text.required(), name: text.required() }))
    .max(20_000),
  hours: Joi.object().pattern(Joi.string(), intervals)
});

/** The shape of one `ringtime` case. Dates, times and zones are read by the core, which says what is wrong with them. */
const ringCase = Joi.object<RingCase>({
  id: Joi.alternatives(Joi.string().allow('').max(200), Joi.number()),
  anchor: text.required(),
  anchorZone: text,
  as: Joi.valid('due', 'start'),
  offset: Joi.object({ n: Joi.number().integer().required(), unit: Joi.valid(...UNITS).required() }),
  closedDay: Joi.valid(...CLOSED_DAY_RULES),
  time: text,
  zone: text,
  calendar,
  endOfDay: Joi.valid('midnight', 'close'),
  hold: Joi.object({ zone: text, calendar, quiet: intervals }).oxor('calendar', 'quiet'),
  ifLate: Joi.valid('keep', 'ring-anyway', 'forward', 'skip'),
  ask: Joi.valid('ring', 'dueMoment', 'daysLeft', 'overdue', 'week', 'renew'),
  at: text,
  leave: Joi.any(),
  away: Joi.any(),
  standIn: Joi.any(),
  manager: Joi.any(),
  repeat: Joi.any(),
  pauses: Joi.any(),
  rhythm: Joi.any(),
  from: Joi.any()
});

/**
 * Reads one line of `ringtime` input.
 * @throws CodedError `bad-json`, or `bad-field` with the field
 */
export function readRingCase(line: string): RingCase {
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch (error) {
    throw new CodedError('bad-json', { detail: error instanceof Error ? error.message : String(error) });
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new CodedError('bad-json', { detail: 'it holds something else' });
  }
  const result = ringCase.validate(value, { convert: false });
  if (result.error) {
    const [detail] = result.error.details;
    throw new CodedError(
      'bad-field',
      { detail: detail!.message.replaceAll('"', '“').replace(/“([^“]*)“/g, '“$1”') },
      detail!.path.join('.')
    );
  }
  return result.value as RingCase;
}
