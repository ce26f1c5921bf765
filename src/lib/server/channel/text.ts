import { plainNumber, textReference } from '../../core/channel/text-address.ts';
import { shortText } from '../../core/message/short.ts';
import { AttemptFailed, type Channel, type OutgoingMessage } from './channel.ts';
import { postJson } from './http.ts';
import type { OutgoingReach } from './reach.ts';

/** A gateway that takes text messages over HTTP. */
export interface TextGateway {
  url: string;
  /** Null: it asks for none. */
  token: string | null;
  /** Whom a telephone shows them from. */
  from: string;
  /** It was set by somebody here; absent where the server was started with it. */
  isSet?: boolean;
}

/**
 * Text messages through an HTTP gateway. It answers that it has taken one; whether that arrived comes back later as a receipt.
 * @param gateway asked at each message; null where none is set up
 * @param receipts where receipts are taken
 * @param reach where the gateway may be, if it was set
 * @param shortLink where what it says can be done, without signing in
 */
export function textChannel(
  gateway: () => TextGateway | null,
  receipts: () => string,
  shortLink: (message: OutgoingMessage) => string,
  reach: OutgoingReach
): Channel {
  return {
    name: 'text',
    async send(message, signal) {
      const { address, messageId, subject } = message;
      const to = gateway();
      if (!to) throw new AttemptFailed({ kind: 'refused', detail: 'Text messages are no longer set up.' });
      const body = {
        from: to.from,
        to: plainNumber(address),
        text: shortText(subject, shortLink(message)),
        reference: textReference(messageId, address),
        receipts: receipts()
      };
      await postJson(to.url, to.token, body, signal, to.isSet ? reach : null);
    },
    close() {}
  };
}
