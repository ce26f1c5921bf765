import type { ChannelName } from '../../core/channel/channels.ts';
import type { TellingKind } from '../../core/notice/kinds.ts';
import type { Channel, OutgoingMessage } from './channel.ts';
import { chatChannel } from './chat.ts';
import { inAppChannel } from './in-app.ts';
import { keptHere } from './kept-here.ts';
import { mailChannel } from './mail.ts';
import type { OutgoingReach } from './reach.ts';
import type { ChannelSetUp } from './set-up.ts';
import { textChannel } from './text.ts';

/** What channels ask of the rest, at each message. */
export interface Sending {
  setUp: ChannelSetUp;
  /** In whose name mail is sent. */
  sender: () => { name: string; address: string };
  /** Where somebody stops mail of some kinds. */
  stopLink: (readerId: number, kinds: readonly TellingKind[]) => string;
  /** Where receipts of text messages are taken. */
  receipts: () => string;
  /** Where what a short message says can be done, without signing in. */
  shortLink: (message: OutgoingMessage) => string;
  /** Where channels may go, if they were set and not started with. */
  reach: OutgoingReach;
  /** Tells open pages of a reader. */
  tellPages: (readerId: number) => void;
}

/** Every channel, ready to send. */
export function openChannels(to: Sending): Channel[] {
  const { setUp, reach } = to;
  const channels: Record<ChannelName, Channel> = {
    mail: keptHere(
      () => setUp.keepsMail(),
      mailChannel(() => setUp.mailRoutes(), to.sender, to.stopLink, reach)
    ),
    text: textChannel(() => setUp.textGateway(), to.receipts, to.shortLink, reach),
    chat: chatChannel(() => setUp.chatHook(), reach),
    'in-app': inAppChannel(({ readerId }) => to.tellPages(readerId))
  };
  return Object.values(channels);
}
