import { capital } from '../../../core/capital.ts';
import Joi from 'joi';
import { forEachLeaving, LEAVING } from '../../../core/channel/channels.ts';
import type { ChannelSettings, LeavingChannel } from '../../../core/channel/settings.ts';
import { settingOf, type ChannelsGiven } from './all.ts';
import type { Form } from './setting.ts';

/** What channels talk to, and how much they take, as the form gives it. */
export interface ChannelSettingsInput extends ChannelsGiven {
  rates: ChannelSettings['rates'];
  keepsMail: boolean;
}

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
  ...forEachLeaving((channel) => settingOf(channel).schema),
  rates: Joi.object(forEachLeaving(() => rate)).required(),
  keepsMail: Joi.boolean().default(false)
});

/** Reads what the form sent. */
export function channelForm(form: Form): unknown {
  return {
    ...forEachLeaving((channel) => settingOf(channel).readForm(form)),
    keepsMail: form.mailDoes === 'keep',
    rates: forEachLeaving((channel) => ({
      perMinute: form[`${channel}Minute`],
      perAddress: form[`${channel}Address`]
    }))
  };
}

/** Under which field of the form a fault of the input stands. @param path as `text.url` or `rates.mail.perMinute` */
export function channelFieldOf(path: string, form: Form): string {
  const rate = /^rates\.(\w+)\.per(\w+)$/.exec(path);
  if (rate) return `${rate[1]}${capital(rate[2]!)}`;
  const [channel = '', ...rest] = path.split('.');
  if (!LEAVING.some((one) => one === channel)) return path;
  return settingOf(channel as LeavingChannel).fieldOf(rest.join('.'), form);
}

/** Fields that nobody should read over a shoulder. */
export const HIDDEN: readonly string[] = LEAVING.flatMap((channel) => settingOf(channel).hidden);
