import Joi from 'joi';

/** Whether mail can leave is tried without a message, or with one. */
export const sendingSchema = Joi.object<{ does: 'try' | 'test' }>({
  does: Joi.valid('try', 'test').required()
});

/** Whether mail is kept here instead of sent. */
export const keepSchema = Joi.object<{ keeps: boolean }>({ keeps: Joi.boolean().required() });
