import type { ChannelSettings, LeavingChannel, MailRouteSettings } from '../core/channel/settings.ts';
import type { ChannelName } from '../core/channel/channels.ts';
import type { TellingKind } from '../core/notice/kinds.ts';

/** By which channels a person hears of what. */
export interface ChannelsView {
  chat: string;
  columns: {
    channel: ChannelName;
    words: string;
    /** Where it reaches them, or what is missing. */
    note: string;
  }[];
  rows: {
    kind: TellingKind;
    words: string;
    cells: {
      channel: ChannelName;
      label: string;
      chosen: boolean;
      /** Why the channel cannot carry the kind; null where it can. */
      cannot: string | null;
    }[];
  }[];
}

/** What channels are set to, as a screen may show it: secrets are only said to be there. */
export interface ChannelSettingsView extends Pick<ChannelSettings, 'rates' | 'keepsMail'> {
  mail: (MailRouteSettings & { hasPassword: boolean })[];
  text: { url: string; from: string; hasToken: boolean } | null;
  chat: boolean;
  /** What each talks to now, set or not; none where it is not set up. */
  now: Record<LeavingChannel, readonly string[]>;
}
