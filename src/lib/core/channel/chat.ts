import { USUAL, type ChannelDescriptor } from './descriptor.ts';

/** A team's chat, by an incoming webhook. It has no way to say afterwards that nobody was there. */
export const chat: ChannelDescriptor = {
  ...USUAL,
  words: 'chat',
  by: 'in the chat',
  needs: 'name in the chat',
  asksFor: 'needs a name',
  addressOf: (person) => person.chat,
  bounces: false
};
