import type { Component } from 'svelte';
import type { ChannelName } from '$lib/core/channel/channels.ts';
import ChatPart from './ChatPart.svelte';
import InAppPart from './InAppPart.svelte';
import MailPart from './MailPart.svelte';
import type { ChannelPartProps } from './part-props.ts';
import TextPart from './TextPart.svelte';

/** Each channel's part of the form. */
export const CHANNEL_PARTS: Readonly<Record<ChannelName, Component<ChannelPartProps>>> = {
  mail: MailPart,
  text: TextPart,
  chat: ChatPart,
  'in-app': InAppPart
};
