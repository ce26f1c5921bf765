import Joi from 'joi';

/** Who takes over what; null: that stays as it is. */
export interface HandOverInput {
  /** Open tasks, and a place beside others in tasks and projects. */
  work: number | null;
  /** Rules, digests and sweeps that they keep, and their place in reader lists and groups. */
  keeping: number | null;
  /** People who report to them, and leave of others in which they stand in. */
  people: number | null;
  /** Whether they are deactivated in the same act. */
  deactivate: boolean;
}

const person = Joi.number().integer().positive().empty('').allow(null).default(null);

export const handOverSchema = Joi.object<HandOverInput>({
  ...{ work: person, keeping: person, people: person },
  deactivate: Joi.boolean().truthy('on').default(false)
});
