import { capital } from '../../../core/capital.ts';
import Joi from 'joi';
import { secret, webAddress } from './fields.ts';
import type { ChannelSetting, GivenSecret } from './setting.ts';

interface TextSettings {
  url: string;
  from: string;
}

export type TextGiven = (TextSettings & { token: GivenSecret }) | null;

/** A gateway that takes text messages over HTTP. */
export const text: ChannelSetting<
  TextGiven,
  TextSettings | null,
  (TextSettings & { hasToken: boolean }) | null
> = {
  schema: Joi.object({
    url: webAddress.required(),
    from: Joi.string().trim().min(1).max(40).required().messages({ '*': 'Give the sender.' }),
    token: secret
  })
    .allow(null)
    .required(),
  readForm: ({ textUrl, textFrom, textToken }) =>
    textUrl?.trim() ? { url: textUrl, from: textFrom, token: textToken } : null,
  fieldOf: (path) => `text${capital(path || 'url')}`,
  hidden: ['textToken'],
  hosts: (given) => (given ? [{ host: new URL(given.url).hostname, path: 'text.url' }] : []),
  keep(given, before, secrets) {
    // A token is for the gateway that it was given for.
    if (given?.token) secrets.keep('text', given.token);
    else if (given === null || before?.url !== given.url) secrets.keep('text', null);
    return given && { url: given.url, from: given.from };
  },
  shown: (kept, secrets) => kept && { ...kept, hasToken: secrets.read('text') !== null }
};
