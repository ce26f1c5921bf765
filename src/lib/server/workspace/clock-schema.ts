import Joi from 'joi';
import { dateField, timeField } from '../input/fields.ts';

export interface ClockRequest {
  to?: 'next bell' | 'hour' | 'tomorrow' | 'moment';
  date: string | null;
  time: string | null;
  running?: boolean;
}

export const clockSchema = Joi.object<ClockRequest>({
  to: Joi.valid('next bell', 'hour', 'tomorrow', 'moment'),
  date: dateField,
  time: timeField,
  running: Joi.boolean()
}).or('to', 'running');
