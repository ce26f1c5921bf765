import type { ChannelsSet, LeavingChannel } from '../../../core/channel/settings.ts';
import type { ChannelSettingsView } from '../../../view/channels.ts';
import { chat, type ChatGiven } from './chat.ts';
import { mail, type MailGiven } from './mail.ts';
import type { ChannelSetting } from './setting.ts';
import { text, type TextGiven } from './text.ts';

/** What a screen may show of each. */
export type ChannelsShown = Pick<ChannelSettingsView, LeavingChannel>;

/** What each channel is given by the form. */
export interface ChannelsGiven {
  mail: MailGiven;
  text: TextGiven;
  chat: ChatGiven;
}

/** How each channel is set. */
const SETTING: {
  readonly [C in LeavingChannel]: ChannelSetting<ChannelsGiven[C], ChannelsSet[C], ChannelsShown[C]>;
} = { mail, text, chat };

/** How one channel is set. */
export function settingOf<C extends LeavingChannel>(
  channel: C
): ChannelSetting<ChannelsGiven[C], ChannelsSet[C], ChannelsShown[C]> {
  return SETTING[channel];
}
