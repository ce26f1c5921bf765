import { USUAL, type ChannelDescriptor } from './descriptor.ts';

/** Mail, by SMTP (RFC 5321). */
export const mail: ChannelDescriptor = {
  ...USUAL,
  words: 'mail',
  by: 'by mail',
  needs: 'mail address',
  addressOf: ({ email }) => email?.trim() ?? null
};
