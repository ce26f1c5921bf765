import { AttemptFailed, type Channel } from './channel.ts';
import { postJson } from './http.ts';

/**
 * Messages into a team's chat by an incoming webhook: an address that takes what is posted to it. Whoever knows it can post, so it is kept as a
 * password is.
 * @param hook asked at each message; null where none is set up
 */
export function chatChannel(hook: () => string | null): Channel {
  return {
    name: 'chat',
    async send({ address, messageId, subject, text, link }, signal) {
      const url = hook();
      if (url === null)
        throw new AttemptFailed({ kind: 'refused', detail: 'The chat is not set up any more.' });
      await postJson(url, null, { id: messageId, to: address, title: subject, text, link }, signal);
    },
    close() {}
  };
}
