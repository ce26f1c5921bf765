import Joi from 'joi';

const id = Joi.number().integer().positive();
const idOrNobody = id.allow(null).empty('').default(null);

/** Whose days are asked for. */
export const daysSchema = Joi.object<{
  task?: { owner: number | null; project: number | null };
  person?: number;
}>({
  task: Joi.object({ owner: idOrNobody, project: idOrNobody }),
  person: id
});
