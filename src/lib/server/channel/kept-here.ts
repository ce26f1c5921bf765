import type { Channel } from './channel.ts';

/** A channel whose messages stay here while that is set: they are taken at once, and read in the Post room. */
export function keptHere(keeps: () => boolean, channel: Channel): Channel {
  return {
    name: channel.name,
    send: (message, signal) => (keeps() ? Promise.resolve('kept') : channel.send(message, signal)),
    close: () => channel.close()
  };
}
