import Joi from 'joi';

/** A secret: nothing leaves what is kept as it is. */
export const secret = Joi.string().max(500).empty('').allow(null).default(null);

/** Messages are handed to whatever stands at an address, so it is one of the web and carries nobody's name. */
export const webAddress = Joi.string()
  .trim()
  .max(1_000)
  .uri({ scheme: ['http', 'https'] })
  .pattern(/^https?:\/\/[^@/]*(\/|$)/)
  .messages({
    'string.empty': 'Give the address.',
    'any.required': 'Give the address.',
    'string.uri': 'This is not a web address. It looks like https://gateway.example/send.',
    'string.uriCustomScheme': 'This is not a web address. It looks like https://gateway.example/send.',
    'string.pattern.base': 'Give the address without a name or password in it.'
  });

/** As fields of a form are named after what they hold: `url` of the text messages is `textUrl`. */
