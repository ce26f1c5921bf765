import Joi from 'joi';
import { webAddress } from './fields.ts';
import type { ChannelSetting } from './setting.ts';

/** `keep` leaves the address that is kept, `none` forgets it. */
export type ChatGiven = { does: 'keep' | 'none' } | { does: 'set'; url: string };

/** An incoming webhook. Its address is all that it takes to post, so that is kept as a password is, and only whether there is one is known. */
export const chat: ChannelSetting<ChatGiven, boolean, boolean> = {
  schema: Joi.alternatives(
    Joi.object({ does: Joi.valid('keep', 'none').required() }),
    Joi.object({ does: Joi.valid('set').required(), url: webAddress.required() })
  )
    .required()
    .messages({ '*': 'This is not a web address. It looks like https://chat.example/hooks/….' }),
  readForm({ chatUrl, chatForget }) {
    if (chatUrl?.trim()) return { does: 'set', url: chatUrl };
    return { does: chatForget === 'on' ? 'none' : 'keep' };
  },
  fieldOf: () => 'chatUrl',
  hidden: ['chatUrl'],
  hosts: (given) => (given.does === 'set' ? [{ host: new URL(given.url).hostname, path: 'chat.url' }] : []),
  keep(given, before, secrets) {
    if (given.does === 'keep') return before;
    secrets.keep('chat', given.does === 'set' ? given.url : null);
    return given.does === 'set';
  },
  shown: (kept) => kept
};
