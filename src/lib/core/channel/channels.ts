import { namesOf } from '../names-of.ts';
import { chat } from './chat.ts';
import type { ChannelDescriptor } from './descriptor.ts';
import { inApp } from './in-app.ts';
import { mail } from './mail.ts';
import type { LeavingChannel } from './settings.ts';
import { text } from './text.ts';

/** Every channel by its name, in the order in which one takes the place of another. */
export const CHANNEL = { mail, text, chat, 'in-app': inApp } as const satisfies Record<
  string,
  ChannelDescriptor
>;
export type ChannelName = keyof typeof CHANNEL;
export const CHANNELS = namesOf(CHANNEL);

/** A channel as an address or a form names it; null where there is none of that name. */
export function channelNamed(name: unknown): ChannelName | null {
  return CHANNELS.find((one) => one === name) ?? null;
}

/** Channels whose messages others take over. */
export const LEAVING = CHANNELS.filter(isLeaving);

export function isLeaving(channel: ChannelName): channel is LeavingChannel {
  return CHANNEL[channel].leaves;
}

/** Something for each of them. */
export function forEachLeaving<T>(make: (channel: LeavingChannel) => T): Record<LeavingChannel, T> {
  return Object.fromEntries(LEAVING.map((channel) => [channel, make(channel)])) as Record<LeavingChannel, T>;
}
