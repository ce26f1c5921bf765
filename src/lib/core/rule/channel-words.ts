import type { ChannelName } from '../delivery/channel-name.ts';

/** A channel in a sentence: somebody is told “by mail”. */
export const BY_CHANNEL: Readonly<Record<ChannelName, string>> = {
  mail: 'by mail',
  text: 'by text message',
  chat: 'in the chat',
  'in-app': 'in the app'
};
