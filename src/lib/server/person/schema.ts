import Joi from 'joi';
import { ROLES, type Role } from '../../core/access/deeds.ts';
import { CHANNELS } from '../../core/channel/channels.ts';
import type { ChannelChoice } from '../../core/channel/ways.ts';
import { TELLING_KINDS } from '../../core/notice/kinds.ts';
import { errorSentence } from '../../core/errors.ts';
import { parseInterval } from '../../core/calendar/spec.ts';
import { parseDay } from '../../core/time/day.ts';
import { checked, idField, timeField, zoneField } from '../input/fields.ts';

export interface PersonInput {
  name: string;
  email: string | null;
  phone: string | null;
  zone: string;
  calendarId: number;
  managerId: number | null;
  role: Role;
  /** Names of groups; one that is not there yet is made. */
  groups: string[];
}

/** Mail addresses are checked for shape, not against the list of top-level domains: `.example` is a good one. */
export const emailField = Joi.string()
  .trim()
  .max(254)
  .email({ tlds: false })
  .messages({ 'string.email': 'This is not a mail address. It looks like name@place.example.' });

/** Numbers as people write them: with a plus, spaces, brackets and dashes (ITU-T E.123 asks for no more). */
export const phoneField = Joi.string()
  .trim()
  .max(40)
  .pattern(/^\+?[\d ()./-]{5,}$/)
  .messages({ 'string.pattern.base': 'This is not a telephone number. It looks like +351 265 555 010.' })
  .empty('')
  .allow(null)
  .default(null);

export const personNameField = Joi.string()
  .trim()
  .max(200)
  .required()
  .messages({
    'string.empty': errorSentence('person-no-name'),
    'any.required': errorSentence('person-no-name'),
    'string.max': 'Keep the name under 200 characters.'
  });

const requiredZone = zoneField
  .required()
  .messages({ 'string.empty': 'Choose a time zone.', 'any.required': 'Choose a time zone.' });

export const personSchema = Joi.object<PersonInput>({
  name: personNameField,
  email: emailField.empty('').allow(null).default(null),
  phone: phoneField,
  zone: requiredZone,
  calendarId: Joi.number().integer().positive().required().messages({ '*': 'Choose a calendar.' }),
  managerId: idField,
  role: Joi.valid(...ROLES).default('owner'),
  groups: Joi.array().items(Joi.string().trim().min(1).max(60)).max(30).default([])
});

/** What everybody may change of themselves. */
export const ownBasicsSchema = Joi.object<{ phone: string | null; zone: string }>({
  phone: phoneField,
  zone: requiredZone
});

export interface MoveInput {
  from: string;
  zone: string;
}

const requiredDate = Joi.string()
  .trim()
  .custom(checked(parseDay))
  .required()
  .messages({ 'string.empty': 'Give the date.', 'any.required': 'Give the date.' });

export const moveSchema = Joi.object<MoveInput>({ from: requiredDate, zone: requiredZone });

export interface LeaveInput {
  fromDate: string;
  fromTime: string | null;
  untilDate: string;
  untilTime: string | null;
  standInId: number | null;
  note: string;
}

export const leaveSchema = Joi.object<LeaveInput>({
  fromDate: requiredDate,
  fromTime: timeField,
  untilDate: requiredDate,
  untilTime: timeField,
  standInId: idField,
  note: Joi.string().trim().allow('').max(200).default('')
});

export interface QuietInput {
  quiet: string[];
  dailyCap: number | null;
  digestDue: string | null;
  digestOverdue: string | null;
}

export const quietSchema = Joi.object<QuietInput>({
  digestDue: timeField,
  digestOverdue: timeField,
  quiet: Joi.array()
    .items(Joi.string().trim().custom(checked(parseInterval)))
    .max(4)
    .default([]),
  dailyCap: Joi.number()
    .integer()
    .min(1)
    .max(1000)
    .empty('')
    .allow(null)
    .default(null)
    .messages({ '*': 'Give a whole number from 1 to 1000, or nothing for no limit.' })
});

export interface ChannelsInput {
  chat: string | null;
  channels: ChannelChoice;
}

export const channelsSchema = Joi.object<ChannelsInput>({
  chat: Joi.string()
    .trim()
    .max(120)
    .empty('')
    .allow(null)
    .default(null)
    .messages({ 'string.max': 'Keep the name under 120 characters.' }),
  channels: Joi.object(
    Object.fromEntries(
      TELLING_KINDS.map((kind) => [
        kind,
        Joi.array()
          .items(Joi.valid(...CHANNELS))
          .unique()
      ])
    )
  ).default({})
});

export interface ContactInput {
  name: string;
  email: string | null;
  phone: string | null;
  zone: string;
  note: string;
  projectIds: number[];
  taskIds: number[];
}

export const contactSchema = Joi.object<ContactInput>({
  name: personNameField,
  email: emailField.empty('').allow(null).default(null),
  phone: phoneField,
  zone: requiredZone,
  note: Joi.string().trim().allow('').max(500).default(''),
  projectIds: Joi.array().items(Joi.number().integer().positive()).max(200).unique().default([]),
  taskIds: Joi.array().items(Joi.number().integer().positive()).max(200).unique().default([])
});
