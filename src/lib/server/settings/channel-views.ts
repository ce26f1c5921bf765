import { CHANNEL, CHANNELS, type ChannelName } from '../../core/channel/channels.ts';
import { DEFAULT_CHANNELS } from '../../core/channel/ways.ts';
import { KINDS, TELLING_KINDS } from '../../core/notice/kinds.ts';
import type { ChannelsView } from '../../view/channels.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ChannelSetUp } from '../channel/set-up.ts';
import type { Person } from '../store/people.ts';

/** What these views ask. */
type Services = Workspace & { channels: ChannelSetUp };

/** By which channels a person hears of what, with what each channel lacks. */
export function channelsView(app: Services, person: Person): ChannelsView {
  const open = app.channels.open();
  return {
    chat: person.chat ?? '',
    columns: CHANNELS.map((channel) => ({
      channel,
      words: CHANNEL[channel].words,
      note: noteOf(person, channel, open.includes(channel))
    })),
    rows: TELLING_KINDS.map((kind) => ({
      kind,
      words: KINDS[kind].words,
      cells: CHANNELS.map((channel) => ({
        channel,
        label: `${KINDS[kind].words}, ${CHANNEL[channel].words}`,
        chosen: (person.channels[kind] ?? DEFAULT_CHANNELS).includes(channel),
        cannot: CHANNEL[channel].cannotCarry(kind) ?? lackedFor(person, channel)
      }))
    }))
  };
}

/** What must be entered before a channel can be chosen; null where nothing is missing. */
function lackedFor(person: Person, channel: ChannelName): string | null {
  const { addressOf, asksFor } = CHANNEL[channel];
  return addressOf(person) === null ? asksFor : null;
}

/** Where the channel reaches them, or what is missing for that. */
function noteOf(person: Person, channel: ChannelName, isOpen: boolean): string {
  if (!isOpen) return 'not set up here';
  const { addressOf, shown, needs } = CHANNEL[channel];
  const address = addressOf(person);
  return address === null ? `no ${needs} yet` : shown(address);
}
