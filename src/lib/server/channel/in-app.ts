import type { Channel, OutgoingMessage } from './channel.ts';

/**
 * What stands in the application: it is there as soon as its delivery has ended, and open pages of its reader are told.
 * @param tell tells open pages
 */
export function inAppChannel(tell: (message: OutgoingMessage) => void): Channel {
  return {
    name: 'in-app',
    send(message) {
      tell(message);
      return Promise.resolve();
    },
    close() {}
  };
}
