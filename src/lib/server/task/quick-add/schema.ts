import Joi from 'joi';

/** Which of several meanings was chosen, by what the question is about; `unclear0` of the first words that were not understood. */
export type QuickAnswers = Record<string, number>;

export interface QuickInput {
  line: string;
  answers: QuickAnswers;
  /** Adds the task; else the line is only read back. */
  add: boolean;
}

const answer = Joi.number().integer().min(0).max(50);

export const quickSchema = Joi.object<QuickInput>({
  line: Joi.string().allow('').max(2_000).default('').messages({ 'string.max': 'The line is too long.' }),
  answers: Joi.object({ due: answer, owner: answer, project: answer })
    .pattern(/^unclear\d{1,2}$/, answer)
    .default({}),
  add: Joi.boolean().default(false)
});
