import { USUAL, type ChannelDescriptor } from './descriptor.ts';

/** What stands behind the bell in the application: only who can sign in reads it. */
export const inApp: ChannelDescriptor = {
  ...USUAL,
  words: 'in the app',
  by: 'in the app',
  needs: 'mail address to sign in with',
  addressOf: ({ id, email }) => (email === null ? null : `person ${id}`),
  shown: () => 'at the bell in the top bar',
  leaves: false,
  bounces: false
};
