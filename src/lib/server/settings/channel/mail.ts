import { capital } from '../../../core/capital.ts';
import Joi from 'joi';
import { TLS_CHOICES, type MailRouteSettings } from '../../../core/channel/settings.ts';
import { CodedError } from '../../../core/errors.ts';
import { secret } from './fields.ts';
import type { ChannelSetting, Form, GivenSecret } from './setting.ts';

/** Servers as they are given, the one to be tried first before the other. */
export type MailGiven = (MailRouteSettings & { password: GivenSecret })[];

const route = Joi.object({
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
      'string.pattern.base': 'Not a certificate. It must start with -----BEGIN CERTIFICATE-----.'
    })
});

const SECRETS = ['mail 1', 'mail 2'] as const;

/** One mail server, and another for when it cannot be reached. */
export const mail: ChannelSetting<
  MailGiven,
  MailRouteSettings[],
  (MailRouteSettings & { hasPassword: boolean })[]
> = {
  schema: Joi.array().items(route).max(SECRETS.length).required(),
  readForm: (form) => [...routeOf(form, 1), ...routeOf(form, 2)],
  // The second alone is the first of what was given.
  fieldOf(path, form) {
    const [n, field] = path.split('.');
    return `mail${Number(n) + (form.mail1Host?.trim() ? 1 : 2)}${capital(field ?? '')}`;
  },
  hidden: ['mail1Password', 'mail2Password'],
  hosts: (given) => given.map(({ host }, i) => ({ host, path: `mail.${i}.host` })),
  keep(given, before, secrets) {
    SECRETS.forEach((name, i) => {
      const to = given[i];
      if (!to?.user) return secrets.keep(name, null);
      if (to.password !== null) return secrets.keep(name, to.password);
      // A password is for the server that it was given for: a new one must not be handed it.
      const isSame = before[i]?.host === to.host && before[i].user === to.user;
      if (isSame && secrets.read(name) !== null) return;
      const detail = 'Give the password of this user name';
      throw new CodedError('bad-field', { detail }, `mail.${i}.password`);
    });
    return given.map(({ password: _, ...to }) => to);
  },
  shown: (kept, secrets) => kept.map((to, i) => ({ ...to, hasPassword: secrets.read(SECRETS[i]!) !== null }))
};

function routeOf(form: Form, n: number): unknown[] {
  const field = (name: string) => form[`mail${n}${name}`];
  if (!field('Host')?.trim()) return [];
  return [
    {
      ...{ host: field('Host'), port: field('Port'), tls: field('Tls') },
      ...{ user: field('User'), password: field('Password'), ca: field('Ca') }
    }
  ];
}
