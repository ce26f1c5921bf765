import Joi from 'joi';
import { errorSentence } from '../../core/errors.ts';
import { FIELD_KINDS, PROJECT_STATES, type FieldKind, type ProjectState } from '../../core/task/model.ts';
import { checked, idField } from '../input/fields.ts';
import { canonicalZoneName } from '../../core/time/zone-names.ts';

export interface ProjectInput {
  name: string;
  description: string;
  /** The place it is in; null for none. */
  zone: string | null;
  calendarId: number | null;
  /** Its dates belong to its place. */
  pinned: boolean;
  state: ProjectState;
  register: boolean;
}

const named = (code: 'project-no-name' | 'section-no-name' | 'list-no-name' | 'field-no-name') =>
  Joi.string()
    .trim()
    .max(200)
    .required()
    .messages({ 'string.empty': errorSentence(code), 'any.required': errorSentence(code) });

export const projectSchema = Joi.object<ProjectInput>({
  name: named('project-no-name'),
  description: Joi.string().allow('').max(20_000).default(''),
  zone: Joi.string().trim().empty('').allow(null).default(null).custom(checked(canonicalZoneName)),
  calendarId: idField,
  pinned: Joi.boolean().default(false),
  state: Joi.valid(...PROJECT_STATES).default('open'),
  register: Joi.boolean().default(false)
}).custom((value: ProjectInput, helpers) =>
  value.pinned && value.zone === null
    ? helpers.message({ custom: errorSentence('project-zone-needed') })
    : value
);

export interface MemberInput {
  personId: number;
  role: string;
}
export const memberSchema = Joi.object<MemberInput>({
  personId: Joi.number().integer().positive().required().messages({ '*': 'Choose a person.' }),
  role: Joi.string().trim().allow('').max(80).default('')
});

export const sectionSchema = Joi.object<{ name: string }>({ name: named('section-no-name') });

export interface SavedListInput {
  name: string;
  query: string;
  shared: boolean;
  /** On the Bell tower. */
  counted: boolean;
}
export const savedListSchema = Joi.object<SavedListInput>({
  name: named('list-no-name'),
  query: Joi.string().allow('').max(4_000).default(''),
  shared: Joi.boolean().default(false),
  counted: Joi.boolean().default(false)
});

export interface FieldInput {
  id: number | null;
  name: string;
  kind: FieldKind;
  choices: string[];
  metByStatusId: number | null;
}
export const fieldSchema = Joi.object<FieldInput>({
  id: idField,
  name: named('field-no-name'),
  kind: Joi.valid(...FIELD_KINDS).required(),
  choices: Joi.array().items(Joi.string().trim().min(1).max(120)).unique().max(100).default([]),
  metByStatusId: idField
});
