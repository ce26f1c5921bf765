import { AttemptFailed, type Channel } from './channel.ts';
import { postJson } from './http.ts';
import type { OutgoingReach } from './reach.ts';

/** Where a chat takes what is posted to it. */
export interface ChatHook {
  url: string;
  /** It was set by somebody here, not by who started the server. */
  isSet: boolean;
}

/**
 * Messages into a team's chat by an incoming webhook: an address that takes what is posted to it. Whoever knows it can post, so it is kept as a
 * password is.
 * @param hook asked at each message; null where none is set up
 * @param reach where it may be, if it was set and not started with
 */
export function chatChannel(hook: () => ChatHook | null, reach: OutgoingReach): Channel {
  return {
    name: 'chat',
    async send({ address, messageId, subject, text, link }, signal) {
      const to = hook();
      if (to === null) throw new AttemptFailed({ kind: 'refused', detail: 'The chat is no longer set up.' });
      const body = { id: messageId, to: address, title: subject, text, link };
      await postJson(to.url, null, body, signal, to.isSet ? reach : null);
    },
    close() {}
  };
}
