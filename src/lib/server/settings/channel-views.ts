import { CHANNELS, type ChannelName } from '../../core/delivery/channel-name.ts';
import { DEFAULT_CHANNELS, TELLING_KINDS, cannotCarry } from '../../core/delivery/channels.ts';
import { CHANNEL_WORDS, KIND_WORDS, type ChannelsView } from '../../view/channels.ts';
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
      words: CHANNEL_WORDS[channel],
      note: noteOf(person, channel, open.includes(channel))
    })),
    rows: TELLING_KINDS.map((kind) => ({
      kind,
      words: KIND_WORDS[kind],
      cells: CHANNELS.map((channel) => ({
        channel,
        label: `${KIND_WORDS[kind]}, ${CHANNEL_WORDS[channel]}`,
        chosen: (person.channels[kind] ?? DEFAULT_CHANNELS).includes(channel),
        cannot: cannotCarry(channel, kind) ?? lackedFor(person, channel)
      }))
    }))
  };
}

/** What must be entered before a channel can be chosen; null where nothing is missing. */
function lackedFor({ phone, chat }: Person, channel: ChannelName): string | null {
  if (channel === 'text' && phone === null) return 'needs a number';
  return channel === 'chat' && chat === null ? 'needs a name' : null;
}

/** Where the channel reaches them, or what is missing for that. */
function noteOf({ email, phone, chat }: Person, channel: ChannelName, isOpen: boolean): string {
  if (!isOpen) return 'not set up here';
  if (channel === 'mail') return email ?? 'no address yet';
  if (channel === 'text') return phone ?? 'no telephone number yet';
  if (channel === 'chat') return chat ?? 'no name in the chat yet';
  return email === null ? 'cannot sign in without mail' : 'behind the bell above';
}
