import Joi from 'joi';
import { CodedError } from '../../core/errors.ts';
import { RENEW_FROM } from '../../core/recurrence/renewal.ts';
import { LATE_CHOICES } from '../../core/ring/if-late.ts';
import { CLOSED_DAY_RULES, UNITS } from '../../core/ring/lead.ts';
import { AWAY_CHOICES } from '../../core/ring/reader.ts';
import { ASKS, type RingCase } from '../../core/ringtime/case.ts';
import type { PlaceCase } from '../../core/ringtime/place-case.ts';
import type { ExpandCase } from '../../core/ringtime/expand.ts';

const text = Joi.string().max(100);
const id = Joi.alternatives(Joi.string().allow('').max(200), Joi.number());
const unit = Joi.valid(...UNITS);
const intervals = Joi.array().items(Joi.string().max(11)).max(48);
const week = Joi.object().pattern(Joi.string(), intervals);
const calendar = Joi.object({
  zone: text,
  week: week.default({}),
  weeks: Joi.array()
    .items(Joi.object({ from: text.required(), week: week.required() }))
    .max(1_000),
  closed: Joi.array()
    .items(text, Joi.object({ date: text.required(), name: text.required() }))
    .max(20_000),
  hours: Joi.object().pattern(Joi.string(), intervals)
});
const leave = Joi.array()
  .items(Joi.object({ from: text.required(), to: text.required() }))
  .max(1_000);
/** A stand-in may have a stand-in, and so on; the core asks three of them at most, so a chain of eight is long enough. */
const standInOf = (depth: number): Joi.ObjectSchema =>
  Joi.object({ zone: text, calendar, leave, ...(depth > 1 ? { standIn: standInOf(depth - 1) } : {}) });

/** The shape of one `ringtime` case. Dates, times and zones are read by the core, which says what is wrong with them. */
const ringCase = Joi.object<RingCase>({
  id,
  anchor: text.required(),
  anchorZone: text,
  as: Joi.valid('due', 'start'),
  offset: Joi.object({ n: Joi.number().integer().required(), unit: unit.required() }),
  closedDay: Joi.valid(...CLOSED_DAY_RULES),
  time: text,
  zone: text,
  calendar,
  endOfDay: Joi.valid('midnight', 'close'),
  hold: Joi.object({ zone: text, calendar, quiet: intervals }).oxor('calendar', 'quiet'),
  leave,
  away: Joi.valid(...AWAY_CHOICES),
  standIn: standInOf(8),
  manager: Joi.object({ zone: text, calendar, leave }),
  ifLate: Joi.valid(...LATE_CHOICES),
  repeat: Joi.object({
    n: Joi.number().integer().required(),
    unit: unit.required(),
    count: Joi.number().integer().min(1).max(1_000).required()
  }),
  ask: Joi.valid(...ASKS),
  at: text,
  pauses: Joi.array()
    .items(Joi.object({ from: text.required(), to: text.required() }))
    .max(10_000),
  rhythm: Joi.alternatives(
    Joi.string().max(1_000),
    Joi.object({ n: Joi.number().integer().required(), unit: unit.required() })
  ),
  from: Joi.valid(...RENEW_FROM)
});

/** The shape of a case that asks for a place on a Desk: it has no anchor. */
const placeCase = Joi.object<PlaceCase>({
  id,
  ask: Joi.valid('place').required(),
  start: text.allow(null),
  due: text.allow(null),
  anchorZone: text,
  at: text.required(),
  zone: text,
  calendar,
  status: Joi.valid('open', 'finished', 'closed', 'parked'),
  reviewOn: text,
  placed: Joi.boolean(),
  movedTo: text,
  movedAt: text
});

const expandCase = Joi.object<ExpandCase>({
  id,
  rrule: Joi.string().max(1_000).required(),
  start: text.required(),
  zone: text,
  count: Joi.number().integer().min(1).max(1_000_000),
  exdates: Joi.array().items(text).max(100_000),
  rdates: Joi.array().items(text).max(100_000),
  from: text,
  to: text
});

/**
 * Reads one line of `ringtime` input.
 * @throws CodedError `bad-json`, or `bad-field` with the field
 */
export function readRingCase(line: string): RingCase | PlaceCase {
  return readLine<RingCase | PlaceCase>(line, (value) =>
    'ask' in value && value.ask === 'place' ? placeCase : ringCase
  );
}

/**
 * Reads one line of `expand` input.
 * @throws CodedError `bad-json`, or `bad-field` with the field
 */
export function readExpandCase(line: string): ExpandCase {
  return readLine(line, () => expandCase);
}

function readLine<T>(line: string, schemaOf: (value: object) => Joi.ObjectSchema): T {
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch (error) {
    throw new CodedError('bad-json', { detail: error instanceof Error ? error.message : String(error) });
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new CodedError('bad-json', { detail: 'it holds something else' });
  }
  const result = schemaOf(value).validate(value, { convert: false });
  if (result.error) {
    const [detail] = result.error.details;
    // The sentence names its field in our quotation marks.
    const sentence = detail!.message.replace(/"([^"]*)"/g, '“$1”');
    throw new CodedError('bad-field', { detail: sentence }, detail!.path.join('.'));
  }
  return result.value as T;
}
