import Joi from 'joi';
import {
  TLS_CHOICES,
  type ChannelSettings,
  type MailRouteSettings
} from '../../core/delivery/channel-settings.ts';

/** A secret as a form gives it: null leaves what is kept as it is. */
type Given = string | null;

/** What channels talk to, as the form gives it. */
export interface ChannelSettingsInput {
  mail: (MailRouteSettings & { password: Given })[];
  text: { url: string; from: string; token: Given } | null;
  /** `keep` leaves the address that is kept, `none` forgets it. */
  chat: { does: 'keep' | 'none' } | { does: 'set'; url: string };
  rates: ChannelSettings['rates'];
}

const secret = Joi.string().max(500).empty('').allow(null).default(null);
/** Messages are handed to whatever stands at an address, so it is one of the web and carries nobody's name. */
const webAddress = Joi.string()
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
const perMinute = Joi.number()
  .integer()
  .min(1)
  .max(100_000)
  .empty('')
  .allow(null)
  .default(null)
  .messages({ '*': 'Give a whole number from 1 to 100000, or nothing for no limit.' });
const rate = Joi.object({ perMinute, perAddress: perMinute });

export const channelSettingsSchema = Joi.object<ChannelSettingsInput>({
  mail: Joi.array()
    .items(
      Joi.object({
        host: Joi.string()
          .trim()
          .max(253)
          .hostname()
          .required()
          .messages({ '*': 'Give the name of the mail server, like mail.team.example.' }),
        port: Joi.number()
          .port()
          .required()
          .messages({ '*': 'Give its port, a number from 1 to 65535: 587 is usual.' }),
        tls: Joi.valid(...TLS_CHOICES).required(),
        user: Joi.string().trim().allow('').max(254).default(''),
        password: secret,
        ca: Joi.string()
          .trim()
          .allow('')
          .max(20_000)
          .pattern(/^-----BEGIN CERTIFICATE-----[\s\S]+-----END CERTIFICATE-----$/)
          .default('')
          .messages({
            'string.pattern.base': 'This is no certificate: it begins with -----BEGIN CERTIFICATE-----.'
          })
      })
    )
    .max(2)
    .required(),
  text: Joi.object({
    url: webAddress.required(),
    from: Joi.string().trim().min(1).max(40).required().messages({ '*': 'Say whom it comes from.' }),
    token: secret
  })
    .allow(null)
    .required(),
  chat: Joi.alternatives(
    Joi.object({ does: Joi.valid('keep', 'none').required() }),
    Joi.object({ does: Joi.valid('set').required(), url: webAddress.required() })
  )
    .required()
    .messages({ '*': 'This is not a web address. It looks like https://chat.example/hooks/….' }),
  rates: Joi.object({ mail: rate, text: rate, chat: rate }).required()
});

/** Reads what the form sent: parts whose first field is empty are not set. */
export function channelForm(form: Readonly<Record<string, string>>): unknown {
  const route = (n: 1 | 2) =>
    form[`mail${n}Host`]?.trim()
      ? [
          {
            ...{ host: form[`mail${n}Host`], port: form[`mail${n}Port`], tls: form[`mail${n}Tls`] },
            ...{ user: form[`mail${n}User`], password: form[`mail${n}Password`], ca: form[`mail${n}Ca`] }
          }
        ]
      : [];
  const text = form.textUrl?.trim()
    ? { url: form.textUrl, from: form.textFrom, token: form.textToken }
    : null;
  const chat = form.chatUrl?.trim()
    ? { does: 'set', url: form.chatUrl }
    : { does: form.chatForget === 'on' ? 'none' : 'keep' };
  const rate = (name: string) => ({ perMinute: form[`${name}Minute`], perAddress: form[`${name}Address`] });
  return {
    ...{ mail: [...route(1), ...route(2)], text, chat },
    rates: { mail: rate('mail'), text: rate('text'), chat: rate('chat') }
  };
}

/** Under which field of the form a fault of the input stands. @param isFirstSet whether the first mail route was given */
export function channelFieldOf(path: string, isFirstSet: boolean): string {
  const mail = /^mail\.(\d)\.(\w+)$/.exec(path);
  if (mail) return `mail${Number(mail[1]) + (isFirstSet ? 1 : 2)}${capital(mail[2]!)}`;
  const rate = /^rates\.(\w+)\.per(\w+)$/.exec(path);
  if (rate) return `${rate[1]}${rate[2]}`;
  const [part = '', field = 'url'] = path.split('.');
  return part + capital(field);
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);
