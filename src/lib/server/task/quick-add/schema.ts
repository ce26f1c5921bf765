import Joi from 'joi';

export interface QuickInput {
  line: string;
  /** Which of several meanings was chosen. */
  answers: Partial<Record<'due' | 'owner' | 'project', number>>;
  /** Adds the task; else the line is only read back. */
  add: boolean;
}

const answer = Joi.number().integer().min(0).max(50);

export const quickSchema = Joi.object<QuickInput>({
  line: Joi.string().allow('').max(2_000).default('').messages({ 'string.max': 'The line is too long.' }),
  answers: Joi.object({ due: answer, owner: answer, project: answer }).default({}),
  add: Joi.boolean().default(false)
});
