import type { ChannelName } from '../core/delivery/channel-name.ts';
import type { TellingKind } from '../core/delivery/channels.ts';

/** Channels as screens name them. */
export const CHANNEL_WORDS: Readonly<Record<ChannelName, string>> = {
  mail: 'mail',
  text: 'text message',
  chat: 'chat',
  'in-app': 'in the app'
};

/** Kinds of what people are told, as screens name them. */
export const KIND_WORDS: Readonly<Record<TellingKind, string>> = {
  assigned: 'assigned to you',
  reminder: 'reminder',
  'due today': 'due today',
  overdue: 'overdue',
  escalation: 'escalation',
  question: 'question to you',
  finished: 'finished',
  'digest of due': 'digest of due',
  'digest of overdue': 'digest of overdue',
  'rule fault': 'a rule of yours fails'
};

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
